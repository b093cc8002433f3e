import { MathUtils } from 'three'

/** A picture at rest should take no longer than this. */
const PATIENCE_MS = 250
const SETTLE_MS = 180
const MOVING_SHARE = 0.25
/** While it plays a picture should take no longer than this: eight a second. */
const PLAYED_MS = 115
/** Share of detail and of dots that it is thinned to for that, at least. */
const THINNEST = 0.35
/** Pictures that take longer than this are not waited for after a change. */
const HURRY_MS = 60
/** So long after the last change a picture at rest is refined. */
const REST_MS = 300
/** Triangles of plants in a picture at rest: at first, at least and at most. */
const BUDGET = { first: 160_000, least: 90_000, most: 6_000_000 }

/** When pictures are drawn and how rich they may be. Draws only when something changed. */
export class Frames {
  /** Whether the next picture is one of a movement: rougher, and soon followed by another. */
  moving = false
  /** Whether what is in the picture, or whence it is seen, is another than in the last one. */
  stale = true
  /** Pictures drawn. */
  count = 0
  /** Share of detail and dots that is drawn while it plays, so that pictures follow one another quickly; all of them at rest. */
  thinned = 1
  private budget = BUDGET.first
  /** How long the last picture took, milliseconds. */
  lastMs = 0
  /** How long the last picture at rest took. */
  private restMs: number
  private queued = 0
  private playing = false
  private timer = 0
  private restTimer = 0
  private changed = 0
  private readonly picture: () => void
  private readonly rest: (first: boolean) => boolean

  /**
   * `picture` draws one; where pictures are known to take long they begin rough. `rest` goes on with one that is at rest, part by part, and tells whether
   * there is more to do.
   */
  constructor(picture: () => void, slow: boolean, rest: (first: boolean) => boolean = () => false) {
    this.picture = picture
    this.rest = rest
    this.restMs = slow ? Infinity : 0
  }

  /** Triangles that the next picture may hold. */
  get triangles(): number {
    return this.moving ? this.budget * MOVING_SHARE * this.thinned : this.budget
  }

  /** Share of its width and height that a rough picture is drawn at where there is no graphics card: less where it plays too slowly. */
  get size(): number {
    return this.thinned < 0.75 ? 0.4 : 0.5
  }

  /** Draws at the next frame. */
  draw() {
    this.stale = true
    this.again()
  }

  /** The same things once more, at another moment. */
  again() {
    window.clearTimeout(this.restTimer)
    this.changed = performance.now()
    if (this.queued) return
    this.queued = requestAnimationFrame(() => {
      this.queued = 0
      this.picture()
    })
  }

  /** While it plays every picture is one of a movement; the full one comes when it stops. */
  play(on: boolean) {
    this.playing = on
    this.thinned = 1
    this.move()
  }

  /** Draws a movement: rough pictures, and a full one once it rests. */
  move() {
    this.moving = true
    window.clearTimeout(this.timer)
    this.timer = window.setTimeout(() => {
      this.moving = this.playing
      this.draw()
    }, SETTLE_MS)
    this.draw()
  }

  /** Shows a change at once: where pictures take long, a rougher one first and the full one a moment later. */
  hurry() {
    if (this.restMs > HURRY_MS) this.move()
    else this.draw()
  }

  /** Takes note of a picture: more triangles where there is time for them, fewer where there is not. */
  done(ms: number, triangles: number) {
    this.count++
    this.lastMs = ms
    this.stale = false
    if (this.playing && ms > PLAYED_MS && this.thinned > THINNEST) {
      this.thinned = Math.max(THINNEST, this.thinned * MathUtils.clamp(PLAYED_MS / ms, 0.6, 0.95))
      this.stale = true
    }
    if (this.moving) return
    this.restMs = ms
    this.goOn(Math.max(0, REST_MS - (performance.now() - this.changed)), true)
    // The first pictures also make the shaders.
    if (this.count < 4) return
    const { least, most } = BUDGET
    if (ms > PATIENCE_MS * 1.3) this.budget = Math.max(least, this.budget * MathUtils.clamp(PATIENCE_MS / ms, 0.5, 0.9))
    else if (ms < PATIENCE_MS * 0.5 && triangles > this.budget * 0.6) this.budget = Math.min(most, this.budget * 1.5)
  }

  private goOn(after: number, first: boolean) {
    window.clearTimeout(this.restTimer)
    this.restTimer = window.setTimeout(() => {
      if (this.rest(first)) this.goOn(0, false)
    }, after)
  }

  stop() {
    window.clearTimeout(this.restTimer)
    cancelAnimationFrame(this.queued)
    window.clearTimeout(this.timer)
  }
}
