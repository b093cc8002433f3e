import { Reader } from './reader'

export interface MeshBuffer {
  vertices: number
  triangles: number
  positions: Float32Array
  normals: Float32Array
  /** Reflectance, linear RGB. */
  colours: Float32Array
  /** Four numbers a vertex: how much light goes through, how much of the sky the form leaves it, and nothing, in 255ths. */
  light: Uint8Array
  /** Places in pictures, two numbers a vertex; only on imported species with pictures. */
  uvs?: Float32Array
  /** Which picture lies there; -1 for none. */
  pictures?: Float32Array
  /** What of it bends; only on what does. */
  limbs?: Limbs
  /** Eight numbers a vertex: the stalk of its leaf, kind and phase, where it goes by a turn; only where leaves flutter. */
  flaps?: Int16Array
  /** What it is made of, seen from near. */
  dress?: 'plain' | 'stone' | 'ground' | 'built'
  /** Of a ground how much peat, sand, shingle and rock lies at each vertex. */
  earths?: Uint8Array
  /** Of what is built three numbers a vertex: place on its face, metres, and which texture lies there; -1 for none. */
  places?: Float32Array
  indices: Uint32Array
}

/** Of each vertex where along its limb it hangs, 0 to 1, and which that is; of each limb its foot, where it sets out to and how it curves. */
export interface Limbs {
  share: Float32Array
  limb: Uint32Array
  axes: Float32Array
}

export function decodeMesh(buffer: ArrayBuffer): MeshBuffer {
  const reader = new Reader(buffer, 'RKME')
  const head = reader.head as unknown as MeshBuffer & { skinned: boolean; limbs: number; flutters: boolean; dress: MeshBuffer['dress'] }
  const v = head.vertices * 3
  return {
    vertices: head.vertices,
    triangles: head.triangles,
    positions: reader.f32(v),
    normals: reader.f32(v),
    colours: reader.f32(v),
    light: reader.u8(head.vertices * 4),
    ...(head.skinned && { uvs: reader.f32(head.vertices * 2), pictures: reader.f32(head.vertices) }),
    ...(head.limbs > 0 && { limbs: { share: reader.f32(head.vertices), limb: reader.u32(head.vertices), axes: reader.f32(head.limbs * 9) } }),
    ...(head.flutters && { flaps: reader.i16(head.vertices * 8) }),
    dress: head.dress,
    ...(head.dress === 'ground' && { earths: reader.u8(head.vertices * 4) }),
    ...(head.dress === 'built' && { places: reader.f32(head.vertices * 3) }),
    indices: reader.u32(head.triangles * 3),
  }
}
