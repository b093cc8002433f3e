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
  /** Mean reflectance of what is seen of it from the side, linear. */
  mean: Color
  /** How much of the sky what is seen of it is left by the rest of it, 0 to 1. */
  open: number
  /** What it covers of a picture from the side, m2: the mean of its forms, as their cards show it. */
  covered_m2: number
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
  return { species, meshes, cards, pictures, ...seenFromTheSide(cards) }
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

/** What is seen of all its forms from the side. */
function seenFromTheSide(cards: CardBuffer[]): Pick<SpeciesMeshes, 'mean' | 'open' | 'covered_m2'> {
  const sum = [0, 0, 0]
  let [whole, free] = [0, 0]
  for (const { colours, normals, covered_m2 } of cards) {
    let [own, open, count] = [[0, 0, 0], 0, 0]
    for (let i = 0; i < colours.length; i += 4) {
      if (colours[i + 3] < 128) continue
      count++
      open += normals[i + 3] / 255
      for (let k = 0; k < 3; k++) own[k] += (colours[i + k] / 255) ** 2
    }
    whole += covered_m2
    if (count > 0) free += (open / count) * covered_m2
    if (count > 0) for (let k = 0; k < 3; k++) sum[k] += (own[k] / count) * covered_m2
  }
  const [r, g, b] = sum.map((c) => c / (whole || 1))
  return { mean: new Color(r, g, b), open: free / (whole || 1), covered_m2: whole / (cards.length || 1) }
}
