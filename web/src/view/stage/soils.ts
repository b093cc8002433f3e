import { DataTexture, LinearFilter, LinearMipmapLinearFilter, RGBAFormat, Vector4, type Texture } from 'three'
import type { SoilsBuffer } from '../../api/buffers'

/** What outlines lay over a ground: two pictures over its plan, of colours and of earths, where it lies, and 1 where there is one. */
export const soilUniforms = () => ({ uSoils: { value: null as Texture | null }, uSoilEarths: { value: null as Texture | null }, uSoilsAt: { value: new Vector4(0, 0, 1, 1) }, uSoilsIn: { value: 0 } })

/** Lays soils over a ground; takes them away with null, or with none in them. */
export function laySoils({ uSoils, uSoilEarths, uSoilsAt, uSoilsIn }: ReturnType<typeof soilUniforms>, soils: SoilsBuffer | null) {
  for (const picture of [uSoils, uSoilEarths]) {
    picture.value?.dispose()
    picture.value = null
  }
  uSoilsIn.value = 0
  if (!soils || soils.samples[0] === 0) return
  for (const [uniform, texels] of [[uSoils, soils.texels], [uSoilEarths, soils.earths]] as const) {
    const picture = new DataTexture(texels, ...soils.samples, RGBAFormat)
    picture.magFilter = LinearFilter
    picture.minFilter = LinearMipmapLinearFilter
    picture.generateMipmaps = true
    picture.needsUpdate = true
    uniform.value = picture
  }
  uSoilsAt.value.set(...soils.first, ...soils.size_m)
  uSoilsIn.value = 1
}

/** Of the fragment: the colour of the ground at a point of the plan, and the earths there, where without it it would have others. As `over` and `earths_over` of rookery-core/src/soils. */
export const SOILS_GLSL = /* glsl */ `
uniform sampler2D uSoils;
uniform sampler2D uSoilEarths;
uniform vec4 uSoilsAt;
uniform float uSoilsIn;
vec3 soiled(vec2 p, vec3 under, inout vec4 earths) {
  vec2 samples = vec2(textureSize(uSoils, 0));
  vec2 to = (p - uSoilsAt.xy) / uSoilsAt.zw;
  vec2 at = (to * (samples - 1.0) + 0.5) / samples;
  vec4 laid = texture2D(uSoils, at);
  float share = all(greaterThanEqual(to, vec2(0.0))) && all(lessThanEqual(to, vec2(1.0))) ? laid.a : 0.0;
  vec3 own = laid.rgb / max(laid.a, 1e-3);
  earths = earths * (1.0 - share) + (share > 0.0 ? texture2D(uSoilEarths, at) : vec4(0.0));
  return mix(under, own * own, share);
}
`.trim()
