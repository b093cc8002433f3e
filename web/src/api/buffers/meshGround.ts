import type { Histogram } from './histogram'
import { decodeGround, type GroundBuffer } from './ground'
import { Reader } from './reader'

export interface MeshGroundBuffer {
  vertices: number
  triangles: number
  low_m: [number, number, number]
  high_m: [number, number, number]
  area_m2: number
  /** Names of its face groups. */
  groups: string[]
  slope: Histogram
  altitude: Histogram
  /** Metres, in the ground's own frame. */
  positions: Float32Array
  normals: Float32Array
  /** Square roots of reflectance, four bytes a vertex. */
  colours: Uint8Array
  /** How much peat, sand, shingle and rock lies there, four bytes a vertex; the rest is turf. */
  earths: Uint8Array
  /** Degrees, 0 to 180. */
  slopes: Float32Array
  /** Metres. */
  altitudes: Float32Array
  indices: Uint32Array
}

/** A ground beside the land: a terrain or a mesh, told by its first letters. */
export function decodePlaced(buffer: ArrayBuffer): { kind: 'terrain'; data: GroundBuffer } | { kind: 'mesh'; data: MeshGroundBuffer } {
  if (new Uint8Array(buffer, 2, 1)[0] === 'G'.charCodeAt(0)) return { kind: 'terrain', data: decodeGround(buffer) }
  const reader = new Reader(buffer, 'RKMG')
  const head = reader.head as unknown as MeshGroundBuffer
  const v = head.vertices
  const data = {
    ...head,
    positions: reader.f32(v * 3), normals: reader.f32(v * 3), colours: reader.u8(v * 4), earths: reader.u8(v * 4),
    slopes: reader.f32(v), altitudes: reader.f32(v), indices: reader.u32(head.triangles * 3),
  }
  return { kind: 'mesh', data }
}
