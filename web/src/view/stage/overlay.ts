import { ClampToEdgeWrapping, DataTexture, LinearFilter, NearestFilter, RGBAFormat, RedFormat, SRGBColorSpace, UnsignedByteType } from 'three'
import { rampAt, type Scale } from '../ramps'

/** A value for each sample of the view's ground, laid over it in colours. */
export interface Overlay {
  values: Float32Array
  low: number
  high: number
  scale: Scale
}

/** What is unknown: a grey that no scale has. */
const UNKNOWN = [118, 116, 114, 255]

/** One byte a sample: 1 at the low end, 255 at the high one, 0 where nothing is known. */
export function overlayBytes({ values, low, high }: Overlay): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(values.length)
  const scale = 254 / (high - low)
  for (let i = 0; i < values.length; i++) {
    const value = values[i]
    out[i] = Number.isNaN(value) ? 0 : Math.round(1 + Math.min(254, Math.max(0, (value - low) * scale)))
  }
  return out
}

export function overlayTexture(overlay: Overlay, nx: number, nz: number): DataTexture {
  const texture = new DataTexture(overlayBytes(overlay), nx, nz, RedFormat, UnsignedByteType)
  // Between 359 and 1 degree lies north, not south.
  const filter = overlay.scale === 'round' ? NearestFilter : LinearFilter
  return finished(texture, filter)
}

export function rampTexture(scale: Scale): DataTexture {
  const bytes = new Uint8Array(256 * 4)
  bytes.set(UNKNOWN, 0)
  for (let i = 1; i < 256; i++) bytes.set([...rampAt(scale, (i - 1) / 254), 255], i * 4)
  const texture = new DataTexture(bytes, 256, 1, RGBAFormat, UnsignedByteType)
  texture.colorSpace = SRGBColorSpace
  return finished(texture, LinearFilter)
}

function finished(texture: DataTexture, filter: typeof LinearFilter | typeof NearestFilter): DataTexture {
  texture.minFilter = filter
  texture.magFilter = filter
  texture.wrapS = texture.wrapT = ClampToEdgeWrapping
  texture.unpackAlignment = 1
  texture.needsUpdate = true
  return texture
}
