import { ClampToEdgeWrapping, Color, DataArrayTexture, LinearFilter, LinearMipmapLinearFilter, RepeatWrapping, SRGBColorSpace } from 'three'
import { decodeForms, type CardBuffer, type MeshBuffer, type PicturesBuffer } from '../../api/buffers'
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
  /** Pictures that lie on its meshes; none on what is generated. */
  pictures: DataArrayTexture | null
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
  const { meshes: all, cards, pictures: pixels } = decodeForms(await fetchBuffer(`/api/scenes/${scene}/species/${species.id}/${species.key}/forms`))
  const meshes = DETAILS.map((_, detail) => all.slice(detail * species.forms, (detail + 1) * species.forms))
  const pictures = pixels && arrayTexture(pixels, meshes[0].some((m) => m.uvs?.some((at) => at < -1e-3 || at > 1.001)))
  return { species, meshes, cards, pictures, mean: pictures ? meanOfCards(cards) : meanColour(meshes[1][0]) }
}

function arrayTexture({ side_px, pictures, rgba }: PicturesBuffer, repeats: boolean): DataArrayTexture {
  const t = new DataArrayTexture(rgba, side_px, side_px, pictures)
  t.colorSpace = SRGBColorSpace
  // A picture that is used once must not run over its own edge.
  t.wrapS = t.wrapT = repeats ? RepeatWrapping : ClampToEdgeWrapping
  t.magFilter = LinearFilter
  t.minFilter = LinearMipmapLinearFilter
  t.generateMipmaps = true
  t.needsUpdate = true
  return t
}

/** What is seen of it from the side, where pictures hide the colour of its faces. */
function meanOfCards(cards: CardBuffer[]): Color {
  const sum = [0, 0, 0]
  let whole = 0
  for (const { colours } of cards) {
    for (let i = 0; i < colours.length; i += 4) {
      const cover = colours[i + 3]
      whole += cover
      for (let k = 0; k < 3; k++) sum[k] += (colours[i + k] / 255) ** 2 * cover
    }
  }
  return new Color(sum[0] / (whole || 1), sum[1] / (whole || 1), sum[2] / (whole || 1))
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
