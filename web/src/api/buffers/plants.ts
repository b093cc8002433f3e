import type { Tally } from '../client'
import { Reader } from './reader'

export interface PlantsBuffer {
  /** Names their contents. */
  key?: string
  count: number
  tally: Tally
  /** Metres; three numbers a plant. */
  positions: Float32Array
  sizes: Float32Array
  /** Unit quaternions times 32767; four numbers a plant. */
  rotations: Int16Array
  forms: Uint16Array
  tints: Uint16Array
  /** Place in the layer's mix; none where one species grows. */
  species?: Uint8Array
  /** Height and depth against size, two numbers a plant: 2 to the power of (value - 128) / 64. None where all are as they are. */
  stretches?: Uint8Array
  /** The grounds that carry them, each with how many plants follow one another on it. */
  carried?: [number, number][]
  /** What colours are multiplied with, in 128ths, three numbers a plant. None where no colour is laid over them. */
  colours?: Uint8Array
}

export interface PlantsHead {
  count: number
  tally: Tally
  carried: [number, number][]
  mixed: boolean
  stretched: boolean
  coloured: boolean
}

export function decodePlants(buffer: ArrayBuffer): PlantsBuffer {
  const reader = new Reader(buffer, 'RKPL')
  const head = reader.head as unknown as PlantsHead
  return { count: head.count, tally: head.tally, carried: head.carried, ...columns(reader, head.count, head) }
}

/** The arrays of so many plants. */
export function columns(reader: Reader, n: number, { mixed, stretched, coloured }: PlantsHead): Omit<PlantsBuffer, 'count' | 'tally'> {
  return {
    positions: reader.f32(n * 3),
    sizes: reader.f32(n),
    rotations: reader.i16(n * 4),
    forms: reader.u16(n),
    tints: reader.u16(n),
    ...(mixed && { species: reader.u8(n) }),
    ...(stretched && { stretches: reader.u8(n * 2) }),
    ...(coloured && { colours: reader.u8(n * 3) }),
  }
}
