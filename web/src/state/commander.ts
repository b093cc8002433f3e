import { ApiFailure, api, wanted, type Command, type SceneView } from '../api/client'

export type Saving = 'saved' | 'saving' | 'waiting'

/** What the commander needs of whoever holds the scene. */
export interface SceneHolder {
  scene(): SceneView | null
  accept(scene: SceneView): void
  saving(state: Saving): void
  refused(message: string): void
}

interface Wish {
  command?: Command
  history?: 'undo' | 'redo'
  gesture?: string
  /** Wishes with the same key replace one another while they wait: only the last value of a drag matters. */
  key?: string
}

const RETRY_MS = 1500

/**
 * Sends commands one at a time, in order. A drag's values overtake one another, so that the server never works
 * through a backlog. What cannot be sent waits and is sent again.
 */
export class Commander {
  private queue: Wish[] = []
  private busy = false
  private readonly holder: SceneHolder

  constructor(holder: SceneHolder) {
    this.holder = holder
  }

  /** Whether nothing waits to be sent. */
  get idle() {
    return !this.busy && this.queue.length === 0
  }

  run(command: Command, gesture?: string, key?: string) {
    const last = this.queue.at(-1)
    if (key && last?.key === key && last.gesture === gesture) last.command = command
    else this.queue.push({ command, gesture, key })
    void this.pump()
  }

  undo = () => this.step('undo')
  redo = () => this.step('redo')

  private step(history: 'undo' | 'redo') {
    this.queue.push({ history })
    void this.pump()
  }

  private async pump() {
    if (this.busy) return
    this.busy = true
    try {
      while (this.queue.length > 0) {
        this.holder.saving('saving')
        const wish = this.queue.shift()!
        await this.send(wish)
      }
      this.holder.saving('saved')
    } finally {
      this.busy = false
    }
  }

  private async send(wish: Wish): Promise<void> {
    for (;;) {
      const scene = this.holder.scene()
      if (!scene) return
      try {
        this.holder.accept(await this.ask(scene, wish))
        return
      } catch (e) {
        const failure = e instanceof ApiFailure ? e : new ApiFailure('unknown', String(e))
        if (failure.code === 'offline') {
          this.holder.saving('waiting')
          await new Promise((resolve) => setTimeout(resolve, RETRY_MS))
        } else if (failure.code === 'stale') {
          // Someone else changed the scene: read it, then set the same value on top.
          this.holder.accept(await wanted(api.GET('/api/scenes/{scene}', { params: { path: { scene: scene.id } } })))
        } else {
          if (failure.code !== 'nothing_to_do') this.holder.refused(failure.message)
          return
        }
      }
    }
  }

  private ask(scene: SceneView, wish: Wish): Promise<SceneView> {
    const params = { path: { scene: scene.id } }
    const expected_seq = scene.seq
    if (wish.command) {
      const body = { expected_seq, command: wish.command, gesture: wish.gesture ?? null }
      return wanted(api.POST('/api/scenes/{scene}/commands', { params, body }))
    }
    const path = wish.history === 'undo' ? '/api/scenes/{scene}/undo' : '/api/scenes/{scene}/redo'
    return wanted(api.POST(path, { params, body: { expected_seq } }))
  }
}
