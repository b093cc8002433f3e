import { Color } from 'three'
import type { MeshBuffer } from '../../api/buffers'
import type { Species } from '../../api/client'
import type { SpeciesMeshes } from './species'

const triangle: MeshBuffer = {
  vertices: 3, triangles: 1, positions: new Float32Array(9), normals: new Float32Array(9), colours: new Float32Array(9),
  light: new Uint8Array(12), indices: new Uint32Array([0, 1, 2]),
}
const card = { width_px: 1, height_px: 1, half_m: 0.4, low_m: 0, high_m: 1, covered_m2: 0.2, colours: new Uint8Array(8), normals: new Uint8Array(8) }

/** A species for tests: of one form, each of its meshes a triangle. */
export const sampleLook = (height_m: number, radius_m: number): SpeciesMeshes => ({
  species: { thin: true, height_m, radius_m, forms: 1, triangles: [900, 200, 40, 12, 4], colours: {} } as unknown as Species,
  meshes: [[triangle], [triangle], [triangle], [triangle], [triangle]],
  cards: [card],
  pictures: null,
  mean: new Color(0.2, 0.3, 0.1),
  open: 0.8,
  covered_m2: 0.2,
})
