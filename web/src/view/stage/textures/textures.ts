import { DataArrayTexture, LinearFilter, LinearMipmapNearestFilter, RepeatWrapping, RGBAFormat, Vector3, Vector4 } from 'three'
import type { TexturesBuffer } from '../../../api/buffers'

/** So many pictures, in the order of `Texture` in rookery-core/src/textures. */
export const SHEETS = 10

function pictures(data: Uint8Array<ArrayBuffer>, side: number): DataArrayTexture {
  const all = new DataArrayTexture(data, side, side, SHEETS)
  all.format = RGBAFormat
  all.wrapS = all.wrapT = RepeatWrapping
  all.magFilter = LinearFilter
  // Between levels one step is taken: a look at two of them costs a processor twice as much.
  all.minFilter = LinearMipmapNearestFilter
  all.generateMipmaps = true
  all.needsUpdate = true
  return all
}

/** Shared by all materials of grounds, stones and built things. Level and of one tone until the pictures are there. */
export const textureUniforms = {
  uSheets: { value: pictures(new Uint8Array(SHEETS * 4).fill(128), 1) },
  uSheetSlopes: { value: pictures(new Uint8Array(SHEETS * 4).map((_, i) => (i % 4 < 2 ? 128 : 0)), 1) },
  /** Metres along a side of each, four by four. */
  uSheetSizes: { value: Array.from({ length: 3 }, () => new Vector4(1, 1, 1, 1)) },
  /** Mean gloss of each, four by four. */
  uSheetShines: { value: Array.from({ length: 3 }, () => new Vector4()) },
  /** 0 while the picture moves, 1 at rest. */
  uFine: { value: 1 },
  /** Samples along a side, by which the level is chosen. */
  uSheetSide: { value: 1 },
  uEarthMeans: { value: Array.from({ length: 5 }, () => new Vector3(1, 1, 1)) },
  /** Their colours here; last 1 for those that wear pictures. */
  uEarthOwn: { value: Array.from({ length: 5 }, () => new Vector4(1, 1, 1, 0)) },
}

/** A picture that is gathered over many frames, each a little aside, looks at so small a part of a pixel in each: their mean is what lies in the pixel, where a coarser level is its blur. */
const PART = 0.25

let known: TexturesBuffer | null = null
let part = 1

/** How finely textures are looked at. */
export function lookAtTextures(at: 'whole pixels' | 'parts of pixels') {
  part = at === 'whole pixels' ? 1 : PART
  textureUniforms.uSheetSide.value = (known?.side ?? 1) * part
}

/** Takes the pictures; tells whether they are others. */
export function setTextures(from: TexturesBuffer): boolean {
  if (from === known) return false
  known = from
  const u = textureUniforms
  for (const [uniform, data] of [[u.uSheets, from.texels], [u.uSheetSlopes, from.slopes]] as const) {
    uniform.value.dispose()
    uniform.value = pictures(data, from.side)
  }
  u.uSheetSide.value = from.side * part
  from.sheets.forEach(({ size_m, shine }, i) => {
    u.uSheetSizes.value[i >> 2].setComponent(i % 4, size_m)
    u.uSheetShines.value[i >> 2].setComponent(i % 4, shine)
  })
  from.means.forEach((mean, i) => u.uEarthMeans.value[i].set(...mean))
  from.own.forEach((mean, i) => u.uEarthOwn.value[i].set(...mean, from.worn[i] ? 1 : 0))
  return true
}
