import { Reader } from './reader'

/** What grounds and built things are made of, as `rookery-core/src/textures` has it. */
export interface TexturesBuffer {
  /** Samples along a side of a picture. */
  side: number
  /** Of each picture the metres along a side, and along which sides it may be shifted. */
  sheets: { size_m: number; shifts: [number, number] }[]
  /** Mean reflectance of the five earths, linear. */
  means: [number, number, number][]
  /** Picture after picture: four bytes a sample, colour against its mean and height. */
  texels: Uint8Array<ArrayBuffer>
  /** Picture after picture: two bytes a sample, how it rises along either side. */
  slopes: Uint8Array<ArrayBuffer>
}

export function decodeTextures(buffer: ArrayBuffer): TexturesBuffer {
  const reader = new Reader(buffer, 'RKTX')
  const head = reader.head as unknown as TexturesBuffer
  const samples = head.side * head.side * head.sheets.length
  return { ...head, texels: reader.u8(samples * 4), slopes: reader.u8(samples * 2) }
}
