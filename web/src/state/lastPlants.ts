import { decodePlantsOrChanges, type KnownPlants, type PlantsBuffer } from '../api/buffers'

/**
 * The plants of a layer that came last, and those they were made from, so that only what changes need come. A million plants are 26
 * megabytes: those that were left two steps ago give their memory to the next ones.
 */
export class LastPlants {
  private known: KnownPlants = new Map()
  /** Left at the last step: the view may still show them. */
  private leaving: PlantsBuffer | null = null
  private spare: PlantsBuffer | null = null
  private readonly forget: (key: string) => void

  /** `forget` is told the name of plants whose memory is about to be used again. */
  constructor(forget: (key: string) => void) {
    this.forget = forget
  }

  /** Names of all that changes may start from, with commas between them. */
  names(): string {
    return [...this.known.keys()].join()
  }

  /** Plants that are still at hand, as after a step that was taken back. */
  again(key: string): PlantsBuffer | undefined {
    return this.known.get(key)
  }

  /** Reads what came for a name. */
  take(key: string, buffer: ArrayBuffer): PlantsBuffer {
    const { spare } = this
    // After steps taken back they may be the very ones that come again.
    if (spare?.key && spare.key !== key) this.forget(spare.key)
    const { plants, since } = decodePlantsOrChanges(buffer, this.known, spare)
    plants.key = key
    const base = since === null ? undefined : this.known.get(since)
    const left = [...this.known.values()].filter((p) => p !== base)
    this.known = new Map([...(base ? [[since!, base] as const] : []), [key, plants]])
    this.spare = this.leaving
    this.leaving = left.at(-1) ?? null
    return plants
  }
}
