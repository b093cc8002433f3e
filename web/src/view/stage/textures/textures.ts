import { DataArrayTexture, LinearFilter, LinearMipmapNearestFilter, RepeatWrapping, RGBAFormat, RGFormat, Vector3, Vector4, type PixelFormat } from 'three'
import type { TexturesBuffer } from '../../../api/buffers'

/** So many pictures, in the order of `Texture` in rookery-core/src/textures. */
export const SHEETS = 10

function pictures(data: Uint8Array<ArrayBuffer>, side: number, format: PixelFormat): DataArrayTexture {
  const all = new DataArrayTexture(data, side, side, SHEETS)
  all.format = format
  all.wrapS = all.wrapT = RepeatWrapping
  all.magFilter = LinearFilter
  // Between levels one step is taken: a look at two of them costs a processor twice as much.
  all.minFilter = LinearMipmapNearestFilter
  all.generateMipmaps = true
  // Two bytes a sample need not fill rows of four.
  all.unpackAlignment = 1
  all.needsUpdate = true
  return all
}

/** Shared by all materials of grounds, stones and built things. Level and of one tone until the pictures are there. */
export const textureUniforms = {
  uSheets: { value: pictures(new Uint8Array(SHEETS * 4).fill(128), 1, RGBAFormat) },
  uSheetSlopes: { value: pictures(new Uint8Array(SHEETS * 2).fill(128), 1, RGFormat) },
  /** Metres along a side of each, four by four. */
  uSheetSizes: { value: Array.from({ length: 3 }, () => new Vector4(1, 1, 1, 1)) },
  /** 0 while the picture moves, 1 at rest. */
  uFine: { value: 1 },
  /** Samples along a side. */
  uSheetSide: { value: 1 },
  uEarthMeans: { value: Array.from({ length: 5 }, () => new Vector3(1, 1, 1)) },
}

let known: TexturesBuffer | null = null

/** Takes the pictures; tells whether they are others. */
export function setTextures(from: TexturesBuffer): boolean {
  if (from === known) return false
  known = from
  const u = textureUniforms
  for (const [uniform, data, format] of [[u.uSheets, from.texels, RGBAFormat], [u.uSheetSlopes, from.slopes, RGFormat]] as const) {
    uniform.value.dispose()
    uniform.value = pictures(data, from.side, format)
  }
  u.uSheetSide.value = from.side
  from.sheets.forEach(({ size_m }, i) => u.uSheetSizes.value[i >> 2].setComponent(i % 4, size_m))
  from.means.forEach((mean, i) => u.uEarthMeans.value[i].set(...mean))
  return true
}
