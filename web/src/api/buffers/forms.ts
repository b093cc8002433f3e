import { decodeMesh, type MeshBuffer } from './mesh'
import { Reader } from './reader'

/** The pictures of an imported species, all squares of one size. */
export interface PicturesBuffer {
  side_px: number
  pictures: number
  /** sRGB and cover, row by row from the top. */
  rgba: Uint8Array
}

export interface CardBuffer {
  width_px: number
  height_px: number
  /** Half the width of each picture, metres. */
  half_m: number
  low_m: number
  high_m: number
  /** What the form covers of a picture from the side, the mean of eight sides, m2. */
  covered_m2: number
  /** Two pictures, the one from +Z first; square roots of reflectance, and cover. */
  colours: Uint8Array
  /** Two pictures; -1 to 1 as 0 to 255. */
  normals: Uint8Array
}

/** All forms of a species: one after the other, each with its length before it; first meshes, then cards, then pictures where there are any. */
export function decodeForms(buffer: ArrayBuffer): { meshes: MeshBuffer[]; cards: CardBuffer[]; pictures: PicturesBuffer | null } {
  const view = new DataView(buffer)
  const meshes: MeshBuffer[] = []
  const cards: CardBuffer[] = []
  let pictures: PicturesBuffer | null = null
  for (let at = 0; at < buffer.byteLength; ) {
    const length = view.getUint32(at, true)
    const one = buffer.slice(at + 4, at + 4 + length)
    const kind = String.fromCharCode(...new Uint8Array(one, 0, 4))
    if (kind === 'RKCD') cards.push(decodeCard(one))
    else if (kind === 'RKPX') pictures = decodePictures(one)
    else meshes.push(decodeMesh(one))
    at = (at + 4 + length + 3) & ~3
  }
  return { meshes, cards, pictures }
}

export function decodePictures(buffer: ArrayBuffer): PicturesBuffer {
  const reader = new Reader(buffer, 'RKPX')
  const head = reader.head as unknown as PicturesBuffer
  return { ...head, rgba: reader.u8(head.pictures * head.side_px * head.side_px * 4) }
}

export function decodeCard(buffer: ArrayBuffer): CardBuffer {
  const reader = new Reader(buffer, 'RKCD')
  const head = reader.head as unknown as CardBuffer
  const n = head.width_px * head.height_px * 2 * 4
  return { ...head, colours: reader.u8(n), normals: reader.u8(n) }
}
