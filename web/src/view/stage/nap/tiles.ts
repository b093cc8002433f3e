import type { MeshBuffer, NapBuffer } from '../../../api/buffers'
import { tilesAbout } from './distances'

/** Squares that are kept though they are out of reach. */
const SPARE = 90

/** Where the nap of a ground comes from; another `key` is another nap. */
export interface NapSource {
  key: string
  forms: MeshBuffer[]
  square(x: number, z: number): Promise<NapBuffer>
}

/** Squares of the nap about the eye, fetched as it goes. */
export class NapTiles {
  private source: NapSource | null = null
  private held = new Map<string, Promise<NapBuffer>>()
  private wanted = ''
  private readonly ready: (source: NapSource, tiles: NapBuffer[]) => void

  /** `ready` gets all that are in reach, once all of them are there. */
  constructor(ready: (source: NapSource, tiles: NapBuffer[]) => void) {
    this.ready = ready
  }

  set(source: NapSource | null) {
    if (source?.key !== this.source?.key) this.held = new Map()
    if (source !== this.source) this.wanted = ''
    this.source = source
  }

  /** Asks for those about a point of the plan, unless they were asked for last. */
  want(eastM: number, southM: number) {
    const { source } = this
    if (!source) return
    const names = tilesAbout(eastM, southM)
    const wanted = names.join(' ')
    if (wanted === this.wanted) return
    this.wanted = wanted
    void this.bring(source, names, wanted)
  }

  private async bring(source: NapSource, names: [number, number][], wanted: string) {
    const { held } = this
    const bring = ([x, z]: [number, number]) => {
      const name = `${x} ${z}`
      const tile = held.get(name) ?? source.square(x, z)
      // Those asked for last are the last of the list; what does not come is asked for again.
      held.delete(name)
      held.set(name, tile)
      tile.catch(() => held.delete(name))
      return tile
    }
    const all = await Promise.allSettled(names.map(bring))
    if (source !== this.source || wanted !== this.wanted) return
    for (const name of [...held.keys()].slice(0, Math.max(0, held.size - names.length - SPARE))) held.delete(name)
    this.ready(source, all.flatMap((one) => (one.status === 'fulfilled' ? [one.value] : [])))
  }
}
