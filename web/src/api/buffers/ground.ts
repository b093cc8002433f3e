import type { Histogram } from './histogram'
import { Reader } from './reader'

export interface GroundBuffer {
  nx: number
  nz: number
  size_m: [number, number]
  /** Every how many samples of the true ground one is here. */
  step: number
  low_m: number
  high_m: number
  water_m: number | null
  slope: Histogram
  altitude: Histogram
  /** Metres, row by row from the north-west corner. */
  heights: Float32Array
  /** Degrees. */
  slopes: Float32Array
  /** Square roots of reflectance, four bytes a sample. */
  colours: Uint8Array
  /** How much peat, sand, shingle and rock lies there, four bytes a sample; the rest is turf. */
  earths: Uint8Array
}

export function decodeGround(buffer: ArrayBuffer): GroundBuffer {
  const reader = new Reader(buffer, 'RKGR')
  const head = reader.head as unknown as GroundBuffer
  const n = head.nx * head.nz
  return { ...head, heights: reader.f32(n), slopes: reader.f32(n), colours: reader.u8(n * 4), earths: reader.u8(n * 4) }
}
