import { DataTexture, LinearFilter, LinearMipmapLinearFilter, RGBAFormat, Vector4, type Texture } from 'three'
import type { SoilsBuffer } from '../../api/buffers'

/** What outlines lay over a ground: a picture over its plan, where it lies, and 1 where there is one. */
export const soilUniforms = () => ({ uSoils: { value: null as Texture | null }, uSoilsAt: { value: new Vector4(0, 0, 1, 1) }, uSoilsIn: { value: 0 } })

/** Lays soils over a ground; takes them away with null, or with none in them. */
export function laySoils({ uSoils, uSoilsAt, uSoilsIn }: ReturnType<typeof soilUniforms>, soils: SoilsBuffer | null) {
  uSoils.value?.dispose()
  uSoils.value = null
  uSoilsIn.value = 0
  if (!soils || soils.samples[0] === 0) return
  const picture = new DataTexture(soils.texels, ...soils.samples, RGBAFormat)
  picture.magFilter = LinearFilter
  picture.minFilter = LinearMipmapLinearFilter
  picture.generateMipmaps = true
  picture.needsUpdate = true
  uSoils.value = picture
  uSoilsAt.value.set(...soils.first, ...soils.size_m)
  uSoilsIn.value = 1
}

/** Of the fragment: the colour of the ground at a point of the plan, where without it it would have another. As `Soils::over` of rookery-core/src/soils. */
export const SOILS_GLSL = /* glsl */ `
uniform sampler2D uSoils;
uniform vec4 uSoilsAt;
uniform float uSoilsIn;
vec3 soiled(vec2 p, vec3 under) {
  vec2 samples = vec2(textureSize(uSoils, 0));
  vec2 to = (p - uSoilsAt.xy) / uSoilsAt.zw;
  vec4 laid = texture2D(uSoils, (to * (samples - 1.0) + 0.5) / samples);
  float share = all(greaterThanEqual(to, vec2(0.0))) && all(lessThanEqual(to, vec2(1.0))) ? laid.a : 0.0;
  vec3 own = laid.rgb / max(laid.a, 1e-3);
  return mix(under, own * own, share);
}
`.trim()
