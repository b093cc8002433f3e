import { MathUtils, Vector2, type Object3D, type OrthographicCamera, type PerspectiveCamera, type Scene, type WebGLRenderer } from 'three'
import { MeanPicture } from './mean'

/** A part of a picture that is drawn at once. */
export interface Part {
  /** Which child of the scene it is, and which child of that alone is drawn. */
  root: Object3D
  alone: Object3D | null
  /** Puts it there. */
  fill(): void
}

/** What is on this layer of three's is drawn last of all: marks that are seen through, on what is drawn first. */
export const LATE = 1

/** Pictures whose mean is the finished one: with a graphics card, and on the processor. */
const PASSES = { card: 32, processor: 16 }
/** On the processor it ends after this, wherever it is, milliseconds. */
const PATIENCE_MS = 30_000
/** A slice should take so long, milliseconds: whatever comes waits no longer. */
const SLICE_MS = 80
/** Triangles of a slice: at first, at least and at most. */
const SLICE = { first: 50_000, least: 5_000, most: 5_000_000 }

export interface Refined {
  scene: Scene
  camera: PerspectiveCamera | OrthographicCamera
  /** What of the scene is drawn before the plants, and after them: what they hide, and what is seen through. */
  before: Object3D[]
  after: Object3D[]
  /** Cuts the plants into parts of about so many triangles. */
  cut(most: number): Part[]
  /** Called before each picture but the first: light may come from another point of the sun. */
  next(nth: number): void
}

/**
 * Draws a view that is at rest again and again, slice by slice, each time a fraction of a pixel aside, and shows the mean: edges become smooth and
 * shadows soft. Between two slices there is time for whatever comes.
 */
export class Refinement {
  /** Whole pictures in the mean that is shown. */
  passes = 0
  private readonly picture = new MeanPicture()
  private readonly software: boolean
  private what: Refined | null = null
  private slices: Part[] = []
  private at = 0
  private began = 0
  /** Triangles of a slice, by how long the last ones took. */
  private most = SLICE.first

  constructor(software: boolean) {
    this.software = software
  }

  get on() {
    return this.what !== null
  }

  begin(renderer: WebGLRenderer, what: Refined) {
    this.what = what
    this.passes = this.at = 0
    this.began = performance.now()
    const { x, y } = renderer.getDrawingBufferSize(new Vector2())
    this.picture.size(x, y)
  }

  /** Draws the next slice; tells whether there is another. `wait` waits until it is there. */
  step(renderer: WebGLRenderer, wait: () => void): boolean {
    const { what } = this
    if (!what) return false
    if (this.at === 0) {
      this.slices = what.cut(this.most)
      if (this.passes > 0) what.next(this.passes)
    }
    const slice = this.slices[this.at - 1]
    if (slice) this.drawSlice(renderer, what, slice, wait)
    else if (this.at === 0) this.draw(renderer, what, what.before)
    else {
      this.draw(renderer, what, what.after)
      // Before the sky was there they would have been drawn on nothing, and kept it away.
      this.draw(renderer, what, what.before, null, true)
    }
    if (this.at++ <= this.slices.length) return true
    this.at = 0
    this.passes++
    this.picture.take(renderer, this.passes)
    wait()
    const last = this.passes >= (this.software ? PASSES.processor : PASSES.card)
    if (last || (this.software && performance.now() - this.began > PATIENCE_MS)) this.what = null
    return this.what !== null
  }

  private drawSlice(renderer: WebGLRenderer, what: Refined, { root, alone, fill }: Part, wait: () => void) {
    const start = performance.now()
    fill()
    this.draw(renderer, what, [root], alone)
    wait()
    const ms = Math.max(performance.now() - start, 1)
    this.most = MathUtils.clamp(this.most * MathUtils.clamp(SLICE_MS / ms, 0.8, 1.1), SLICE.least, SLICE.most)
  }

  private draw(renderer: WebGLRenderer, { scene, camera }: Refined, roots: Object3D[], alone: Object3D | null = null, late = false) {
    const shown = new Map<Object3D, boolean>()
    const show = (o: Object3D, on: boolean) => {
      shown.set(o, o.visible)
      o.visible &&= on
    }
    for (const o of scene.children) show(o, roots.includes(o))
    if (alone) for (const o of roots[0].children) show(o, o === alone)
    const clears = renderer.autoClear
    const { mask } = camera.layers
    if (late) camera.layers.set(LATE)
    else camera.layers.disable(LATE)
    const { width, height } = this.picture.one
    camera.setViewOffset(width, height, jitter(this.passes, 2), jitter(this.passes, 3), width, height)
    renderer.setRenderTarget(this.picture.one)
    renderer.autoClear = this.at === 0
    renderer.render(scene, camera)
    renderer.autoClear = clears
    renderer.setRenderTarget(null)
    camera.clearViewOffset()
    camera.layers.mask = mask
    for (const [o, on] of shown) o.visible = on
  }

  /** Ends it; tells whether there was any. */
  end(): boolean {
    const { on } = this
    this.what = null
    this.passes = 0
    return on
  }

  dispose() {
    this.picture.dispose()
  }
}

/** So far aside is a picture, pixels, from -0.5 to 0.5; the first not at all. Halton's sequence (Halton 1960). */
export function jitter(nth: number, base: number): number {
  let [sum, part] = [0, 1]
  for (let n = nth; n > 0; n = Math.floor(n / base)) {
    part /= base
    sum += part * (n % base)
  }
  return nth === 0 ? 0 : sum - 0.5
}
