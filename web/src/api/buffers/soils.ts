import { Reader } from './reader'

/** What outlines lay over the land, as `Soils` of rookery-core/src/soils. */
export interface SoilsBuffer {
  /** North-west corner, and from there to the south-east corner, metres. */
  first: [number, number]
  size_m: [number, number]
  /** From west to east and from north to south; none where nothing is laid. */
  samples: [number, number]
  /** Of each the root of red, green and blue reflectance times the share, and the share, in 255ths. */
  texels: Uint8Array<ArrayBuffer>
  /** How much peat, sand, shingle and rock of that share it is, four bytes a sample; the rest is turf. */
  earths: Uint8Array<ArrayBuffer>
}

export function decodeSoils(buffer: ArrayBuffer): SoilsBuffer {
  const reader = new Reader(buffer, 'RKSO')
  const head = reader.head as unknown as SoilsBuffer
  const bytes = head.samples[0] * head.samples[1] * 4
  return { ...head, texels: reader.u8(bytes), earths: reader.u8(bytes) }
}
