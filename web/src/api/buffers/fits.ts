import { Reader } from './reader'

/** Plants of a layer that have forms of their own. */
export interface FitsBuffer {
  /** Names the plants these are among. */
  plants: string
  /** How fine the forms are, by its place in `DETAILS`. */
  detail: number
  count: number
  vertices: number
  bent: number
  trimmed: number
  /** Of those bent, made smaller as well. */
  smaller: number
  /** Left out because nothing helped. */
  gone: number
  /** Not fitted because there are too many. */
  left: number
  /** Among the plants of its species. */
  places: Uint32Array
  /** Vertices of each; none where it is left out. */
  lengths: Uint32Array
  /** Place in the layer's mix. */
  species: Uint8Array
  /** Metres from the plant's base point. */
  positions: Float32Array
  /** Unit times 127, with a zero behind each. */
  normals: Int8Array
}

export function decodeFits(buffer: ArrayBuffer): FitsBuffer {
  const reader = new Reader(buffer, 'RKFT')
  const head = reader.head as unknown as FitsBuffer
  return {
    ...head, places: reader.u32(head.count), lengths: reader.u32(head.count), species: reader.u8(head.count),
    positions: reader.f32(head.vertices * 3), normals: reader.i8(head.vertices * 4),
  }
}
