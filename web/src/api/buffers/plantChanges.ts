import { columns, decodePlants, type PlantsBuffer, type PlantsHead } from './plants'
import { Reader } from './reader'

interface ChangesHead extends PlantsHead {
  /** Names the plants of before. */
  since: string
  runs: number
  added: number
}

/** What plants have that say nothing of it. */
const plain = (length: number, value: number) => new Uint8Array(length).fill(value)

/** Plants by the name of their contents. */
export type KnownPlants = Map<string, PlantsBuffer>

interface Numbers<T> {
  readonly BYTES_PER_ELEMENT: number
  new (buffer: ArrayBuffer, at: number, length: number): T
}

/** Room for so many numbers: where others were that nobody looks at any more, if they had as much. Fresh room has some to spare. */
function room<T extends ArrayBufferView>(of: Numbers<T>, length: number, old: T | undefined): T {
  const bytes = length * of.BYTES_PER_ELEMENT
  const again = old && old.byteOffset === 0 && old.buffer.byteLength >= bytes
  return new of(again ? (old.buffer as ArrayBuffer) : new ArrayBuffer(Math.ceil((length * 1.02 + 1024) / 4) * 4 * of.BYTES_PER_ELEMENT), 0, length)
}

/**
 * All plants, or those of before with what changed; with the name of the ones they were made from. Plants in `spare` are written over:
 * nobody may look at them any more.
 */
export function decodePlantsOrChanges(buffer: ArrayBuffer, known: KnownPlants, spare: PlantsBuffer | null = null): { plants: PlantsBuffer; since: string | null } {
  if (new Uint8Array(buffer, 3, 1)[0] === 'L'.charCodeAt(0)) return { plants: decodePlants(buffer), since: null }
  const reader = new Reader(buffer, 'RKPD')
  const head = reader.head as unknown as ChangesHead
  const before = known.get(head.since)
  if (!before || before === spare) throw new Error('the plants of before are not there any more')
  const runs = reader.u32(head.runs * 3)
  const fresh = columns(reader, head.added, head)
  const join = <T extends Float32Array | Int16Array | Uint16Array | Uint8Array>(old: T, added: T, out: T, width: number): T => {
    let at = 0
    let taken = 0
    for (let i = 0; i < runs.length; i += 3) {
      const [from, kept, grown] = [runs[i] * width, runs[i + 1] * width, runs[i + 2] * width]
      out.set(old.subarray(from, from + kept), at)
      out.set(added.subarray(taken, taken + grown), at + kept)
      at += kept + grown
      taken += grown
    }
    return out
  }
  const n = head.count
  const plants: PlantsBuffer = {
    count: n,
    tally: head.tally,
    carried: head.carried,
    positions: join(before.positions, fresh.positions, room(Float32Array, n * 3, spare?.positions), 3),
    sizes: join(before.sizes, fresh.sizes, room(Float32Array, n, spare?.sizes), 1),
    rotations: join(before.rotations, fresh.rotations, room(Int16Array, n * 4, spare?.rotations), 4),
    forms: join(before.forms, fresh.forms, room(Uint16Array, n, spare?.forms), 1),
    tints: join(before.tints, fresh.tints, room(Uint16Array, n, spare?.tints), 1),
    ...(head.mixed && { species: join(before.species ?? plain(before.count, 0), fresh.species!, room(Uint8Array, n, spare?.species), 1) }),
    ...(head.stretched && { stretches: join(before.stretches ?? plain(before.count * 2, 128), fresh.stretches!, room(Uint8Array, n * 2, spare?.stretches), 2) }),
    ...(head.coloured && { colours: join(before.colours ?? plain(before.count * 3, 128), fresh.colours!, room(Uint8Array, n * 3, spare?.colours), 3) }),
  }
  return { plants, since: head.since }
}
