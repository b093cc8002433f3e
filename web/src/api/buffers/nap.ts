import { Reader } from './reader'

/** The fine cover of a square of the ground. */
export interface NapBuffer {
  count: number
  /** Metres. */
  positions: Float32Array
  /** Against full size. */
  sizes: Float32Array
  /** Unit quaternions times 32767. */
  rotations: Int16Array
  /** What the colours of its form are multiplied with, in 128ths; last its rank: the smaller, the farther it is seen. */
  colours: Uint8Array
  /** Its kind, its form, and two numbers of its own for colour. */
  what: Uint8Array
}

export function decodeNap(buffer: ArrayBuffer): NapBuffer {
  const reader = new Reader(buffer, 'RKNP')
  const { count } = reader.head as unknown as NapBuffer
  return {
    count, positions: reader.f32(count * 3), sizes: reader.f32(count), rotations: reader.i16(count * 4),
    colours: reader.u8(count * 4), what: reader.u8(count * 4),
  }
}
