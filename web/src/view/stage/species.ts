import { Color } from 'three'
import { decodeForms, type CardBuffer, type MeshBuffer } from '../../api/buffers'
import { fetchBuffer, type Species } from '../../api/client'

/** Meshes of a form, from the finest; hull and box only where they are asked for. */
export const DETAILS = ['full', 'light', 'far', 'hull', 'box'] as const

/** All meshes of a species, and what it looks like from far away. */
export interface SpeciesMeshes {
  species: Species
  /** By detail, then by form. */
  meshes: MeshBuffer[][]
  /** By form. */
  cards: CardBuffer[]
  /** Mean reflectance over the area of its triangles, linear. */
  mean: Color
}

/** By the key of their contents; the longest unused go first. */
const known = new Map<string, Promise<SpeciesMeshes>>()
const KEPT = 64

/** Fetches the forms of a species once for each look it has had. */
export function loadSpecies(scene: string, species: Species): Promise<SpeciesMeshes> {
  let loading = known.get(species.key)
  if (loading) known.delete(species.key)
  else {
    loading = load(scene, species)
    loading.catch(() => known.delete(species.key))
  }
  known.set(species.key, loading)
  const oldest = known.keys().next().value
  if (known.size > KEPT && oldest) known.delete(oldest)
  return loading
}

async function load(scene: string, species: Species): Promise<SpeciesMeshes> {
  const { meshes: all, cards } = decodeForms(await fetchBuffer(`/api/scenes/${scene}/species/${species.id}/${species.key}/forms`))
  const meshes = DETAILS.map((_, detail) => all.slice(detail * species.forms, (detail + 1) * species.forms))
  return { species, meshes, cards, mean: meanColour(meshes[1][0]) }
}

function meanColour(mesh: MeshBuffer): Color {
  const sum = [0, 0, 0]
  let whole = 0
  const p = mesh.positions
  for (let t = 0; t < mesh.triangles; t++) {
    const [a, b, c] = [0, 1, 2].map((k) => mesh.indices[t * 3 + k] * 3)
    const u = [0, 1, 2].map((k) => p[b + k] - p[a + k])
    const v = [0, 1, 2].map((k) => p[c + k] - p[a + k])
    const area = Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0])
    whole += area
    for (let k = 0; k < 3; k++) {
      sum[k] += (area * (mesh.colours[a + k] + mesh.colours[b + k] + mesh.colours[c + k])) / 3
    }
  }
  return new Color(sum[0] / whole, sum[1] / whole, sum[2] / whole)
}
