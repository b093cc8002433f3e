import { Reader } from './reader'

/** What grounds and built things are made of, as `rookery-core/src/textures` has it. */
export interface TexturesBuffer {
  /** Samples along a side of a picture. */
  side: number
  /** Of each picture the metres along a side, and its mean gloss, 0 to 1. */
  sheets: { size_m: number; shine: number }[]
  /** Usual mean reflectance of the five earths, linear. */
  means: [number, number, number][]
  /** What they have in this scene, where some wear pictures of their own. */
  own: [number, number, number][]
  /** Whether they do. */
  worn: boolean[]
  /** What is wrong with pictures of earths that go without. */
  amiss: string[]
  /** Picture after picture: four bytes a sample, colour against its mean and height. */
  texels: Uint8Array<ArrayBuffer>
  /** Picture after picture: four bytes a sample, how it rises along either side, its gloss, and nothing. */
  slopes: Uint8Array<ArrayBuffer>
}

export function decodeTextures(buffer: ArrayBuffer): TexturesBuffer {
  const reader = new Reader(buffer, 'RKTX')
  const head = reader.head as unknown as TexturesBuffer
  const samples = head.side * head.side * head.sheets.length
  return { ...head, texels: reader.u8(samples * 4), slopes: reader.u8(samples * 4) }
}
