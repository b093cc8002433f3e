import { ApiFailure, api, wanted, type Command, type SceneView, type Schemas } from '../api/client'
import { author } from './author'
import { narrow, type Drag } from './narrow'
import { takenBack, withoutMoot } from './takenBack'
import { keepUnsent, leftUnsent, type Conflict, type Wish } from './unsent'

export type CommandAnswer = Schemas['CommandAnswer']

/** How safe what was done is. */
export interface Saving {
  /** `saved` only when the database has acknowledged all; `slow` when no answer came in time, `away` when there is none to be had. */
  state: 'saved' | 'saving' | 'slow' | 'away'
  /** What is not acknowledged. */
  waiting: number
  /** When the oldest of it was done, milliseconds since 1970; 0 when there is none. */
  since: number
  /** What is wrong, in the server's words. */
  why?: string
}

/** A change of which another was faster. */
export interface Undecided {
  id: string
  conflict: Conflict
}

/** What the commander needs of whoever holds the scene. */
export interface SceneHolder {
  scene(): SceneView | null
  accept(answer: CommandAnswer): void
  saving(saving: Saving): void
  refused(message: string): void
  undecided(list: Undecided[]): void
}

const FIRST_WAIT_MS = 400
const LONGEST_WAIT_MS = 5000
/** An answer that takes longer is not waited for; the same is sent again. */
export const PATIENCE_MS = 15_000
/** Faults of the server's own that are put up with before a change is given up. */
const FAULTS = 4

/**
 * Sends what is wished one at a time, in order, until the database has acknowledged it: across answers that are lost, a server that is
 * away, and a page that is loaded again. A drag's values overtake one another, so that the server never works through a backlog.
 */
export class Commander {
  private queue: Wish[] = []
  private busy = false
  private problem: Pick<Saving, 'state' | 'why'> | null = null
  private wake: (() => void) | null = null
  private drag: (Drag & { gesture: string }) | null = null
  private readonly holder: SceneHolder

  constructor(holder: SceneHolder) {
    this.holder = holder
  }

  /** Whether nothing waits to be sent. */
  get idle() {
    return !this.busy && this.queue.every((w) => w.conflict)
  }

  /** Takes over what a page that is gone has left unsent of the scene. */
  async takeOver() {
    const scene = this.holder.scene()
    if (!scene) return
    const { wishes, letGo } = await leftUnsent(scene.id)
    if (wishes.length === 0) return
    this.queue = [...wishes.map((w) => ({ ...w, key: undefined })), ...this.queue]
    this.keep()
    letGo()
    void this.pump()
  }

  run(wished: Command, gesture?: string, key?: string) {
    const scene = this.holder.scene()
    if (!scene) return
    if (this.drag?.gesture !== gesture) this.drag = gesture ? { gesture, began: scene.document, set: new Map() } : null
    const command = narrow(wished, scene.document, this.drag ?? undefined)
    if (!command) return
    const last = this.queue.at(-1)
    if (key && last?.key === key && last.gesture === gesture && !last.tried) last.command = command
    else this.queue.push({ ...this.fresh(), command, gesture, key })
    this.keep()
    void this.pump()
  }

  undo = () => this.step('undo')
  redo = () => this.step('redo')

  private step(history: 'undo' | 'redo') {
    const of = takenBack(this.queue, history)
    this.queue.push({ ...this.fresh(), history, ...(of && { of }) })
    this.keep()
    void this.pump()
  }

  private fresh() {
    return { id: crypto.randomUUID(), seen: this.holder.scene()?.seq ?? 0, at: Date.now() }
  }

  /** Settles a conflict: sends the change again, now knowing the other one, or lets it go. */
  decide(id: string, mine: boolean) {
    const wish = this.queue.find((w) => w.id === id)
    if (!wish?.conflict) return
    this.queue = this.queue.filter((w) => w !== wish)
    if (mine) this.queue.push({ ...this.fresh(), command: wish.command, gesture: wish.gesture, seen: wish.conflict.seq })
    this.keep()
    void this.pump()
  }

  /** Tries again at once. */
  hurry = () => this.wake?.()

  private keep() {
    const scene = this.holder.scene()
    if (scene) keepUnsent(scene.id, this.queue)
    this.holder.undecided(this.queue.flatMap((w) => (w.conflict ? [{ id: w.id, conflict: w.conflict.of }] : [])))
    this.tell()
  }

  private tell() {
    const open = this.queue.filter((w) => !w.conflict)
    const since = open.reduce((least, w) => Math.min(least, w.at), Infinity)
    const saving = open.length === 0 ? { state: 'saved' as const } : (this.problem ?? { state: 'saving' as const })
    this.holder.saving({ ...saving, waiting: open.length, since: open.length > 0 ? since : 0 })
  }

  private async pump() {
    if (this.busy) return
    this.busy = true
    try {
      for (let wish = this.next(); wish; wish = this.next()) {
        await this.send(wish)
        this.problem = null
        this.keep()
      }
    } finally {
      this.busy = false
    }
  }

  private next() {
    return this.queue.find((w) => !w.conflict)
  }

  private done(wish: Wish) {
    this.queue = this.queue.filter((w) => w !== wish)
  }

  /** Sends a wish until it is answered. It leaves the queue only then. */
  private async send(wish: Wish): Promise<void> {
    let faults = 0
    for (let wait = FIRST_WAIT_MS; ; wait = Math.min(wait * 2, LONGEST_WAIT_MS)) {
      const scene = this.holder.scene()
      if (!scene) return
      wish.tried = true
      this.keep()
      try {
        const answer = await this.ask(scene, wish)
        this.done(wish)
        this.holder.accept(answer)
        return
      } catch (e) {
        const failure = e instanceof ApiFailure ? e : new ApiFailure('unknown', String(e))
        if (failure.kind === 'fault') faults += 1
        if (failure.kind === 'away' || failure.kind === 'slow' || (failure.kind === 'fault' && faults < FAULTS)) {
          this.problem = { state: failure.kind === 'away' ? 'away' : 'slow', why: failure.message }
          this.tell()
          await this.pause(Math.max(wait, failure.retryAfterMs ?? 0))
          continue
        }
        if (failure.code === 'conflict' && failure.conflict) wish.conflict = { seq: failure.seq ?? scene.seq, of: failure.conflict }
        else this.done(wish)
        this.queue = withoutMoot(this.queue, wish.id)
        if (!wish.conflict && failure.code !== 'nothing_to_do') this.holder.refused(failure.message)
        return
      }
    }
  }

  private pause(ms: number): Promise<void> {
    return new Promise((resolve) => {
      const timer = setTimeout(resolve, ms)
      this.wake = () => {
        clearTimeout(timer)
        resolve()
      }
    })
  }

  private ask(scene: SceneView, wish: Wish): Promise<CommandAnswer> {
    const params = { path: { scene: scene.id } }
    const signal = AbortSignal.timeout(PATIENCE_MS)
    const who = { id: wish.id, author: author(), seen_seq: wish.seen }
    if (wish.command) {
      const body = { ...who, command: wish.command, gesture: wish.gesture ?? null }
      return wanted(api.POST('/api/scenes/{scene}/commands', { params, body, signal }))
    }
    const path = wish.history === 'undo' ? '/api/scenes/{scene}/undo' : '/api/scenes/{scene}/redo'
    return wanted(api.POST(path, { params, body: who, signal }))
  }
}
