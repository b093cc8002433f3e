import { Color, Vector3, Vector4, type ShaderMaterial } from 'three'
import type { Shot } from '../../api/client'
import { SHADOW_GLSL } from './shadows/glsl'
import { shadowUniforms } from './shadows/uniforms'
import { CLOUDS_GLSL, cloudLook, cloudUniforms, setClouds } from './sky/clouds'
import { seaUniforms } from './water/sea'
import { SKY_GLSL } from './sky/glsl'
import { ambient, makeSky, radiance } from './sky/sky'

const colours = (count: number) => Array.from({ length: count }, () => new Vector3())

/** Shared by all materials of the view; one object, so that a change of light reaches every one of them. */
export const lightUniforms = {
  ...shadowUniforms,
  ...cloudUniforms,
  ...seaUniforms,
  uSun: { value: new Vector3(0.5, 0.6, 0.4).normalize() },
  uSunLight: { value: new Color(3, 2.8, 2.5) },
  /** The sky: `sky/sky.ts`. */
  uSkyShape: { value: colours(9) },
  uSkyBright: { value: new Vector3() },
  uGrey: { value: new Vector3() },
  uOvercast: { value: 0 },
  uAmbient: { value: colours(9) },
  uHaze: { value: 2600 },
  /** Colour of far air, and by how much it changes towards the sun and away from it. */
  uAir: { value: colours(3) },
  uExposure: { value: 1.45 },
  /** 1 with air between the eye and what it sees, 0 without. */
  uClear: { value: 1 },
  /** Height of the water that is everywhere, metres; far below where there is none. */
  uWater: { value: -1e6 },
  /** Colour of deep water. */
  uDeep: { value: new Vector3() },
}

/**
 * Takes a material out of the scene: no shadow falls on it, and no water lies over it. What is drawn by another renderer needs this, for it has none of
 * the pictures that the scene's shadows are kept in.
 */
export function alone(material: ShaderMaterial): ShaderMaterial {
  const own = { uShadowPx: [0, 0, 0, 0, 0], uShadow0: null, uShadow1: null, uShadow2: null, uShadow3: null, uShadow4: null, uAbove: null, uAboveAt: new Vector4(), uWater: -1e6, uClouds: new Vector3(), uBillows: null }
  for (const [name, value] of Object.entries(own)) material.uniforms[name] = { value }
  return material
}

/** Where the sun stands, as a unit vector: azimuth is clockwise from north (-Z), elevation above the horizon. */
export function sunDirection(azimuthDeg: number, elevationDeg: number): Vector3 {
  const a = (azimuthDeg * Math.PI) / 180
  const e = (elevationDeg * Math.PI) / 180
  return new Vector3(Math.sin(a) * Math.cos(e), Math.sin(e), -Math.cos(a) * Math.cos(e))
}

/** Takes the light of a shot: that of the stills (`rookery-render/src/light`, and `haze` and the water in `integrator.rs`). */
export function setLight(shot: Pick<Shot, 'sun_azimuth_deg' | 'sun_elevation_deg' | 'overcast' | 'clouds'>) {
  const { sun_azimuth_deg: azimuth, sun_elevation_deg: elevation, overcast, clouds = 0 } = shot
  const sun = sunDirection(azimuth, elevation)
  const u = lightUniforms
  u.uSun.value.copy(sun)
  const air = 1 / (sun.y + 0.15 * Math.max(0.1, elevation + 3.885) ** -1.253)
  const veil = (1 - overcast) ** 2
  const through = (depth: number) => Math.exp(-depth * air) * 3.3 * veil
  u.uSunLight.value.setRGB(through(0.055), through(0.115), through(0.235))
  const sky = makeSky(sun, overcast)
  for (const [i, s] of sky.shape.entries()) u.uSkyShape.value[i].copy(s)
  u.uSkyBright.value.copy(sky.bright)
  u.uGrey.value.copy(sky.grey)
  u.uOvercast.value = overcast
  const { r, g, b } = u.uSunLight.value
  const look = cloudLook(sky, new Vector3(r, g, b))
  setClouds(clouds, look)
  for (const [i, c] of ambient(sky, new Vector3(r, g, b), { share: clouds, look }).entries()) u.uAmbient.value[i].copy(c)
  u.uHaze.value = 2600 - 1400 * overcast
  // Level with the eye: towards the sun, aside, and away from it, as a curve over the cosine.
  const level = (turn: number) => {
    const a = ((azimuth + turn) * Math.PI) / 180
    return radiance(sky, new Vector3(Math.sin(a), 0.03, -Math.cos(a)).normalize()).multiplyScalar(0.8)
  }
  const [to, aside, back] = [level(0), level(90), level(180)]
  u.uAir.value[0].copy(aside)
  u.uAir.value[1].copy(to).sub(back).multiplyScalar(0.5)
  u.uAir.value[2].copy(to).add(back).multiplyScalar(0.5).sub(aside)
  u.uDeep.value.set(0.035, 0.115, 0.13).multiplyScalar(0.35 + 1.6 * radiance(sky, new Vector3(0, 1, 0)).y)
}

/** Light on a surface, and the water and the air before it. Albedo is linear; `through` is the share that passes a leaf. */
export const LIGHT_GLSL = /* glsl */ `
uniform vec3 uSun;
uniform vec3 uSunLight;
uniform float uHaze;
uniform vec3 uAir[3];
uniform float uExposure;
uniform float uClear;
uniform float uWater;
uniform vec3 uDeep;

${SKY_GLSL}
${CLOUDS_GLSL}
${SHADOW_GLSL}
// How much of the sun reaches what is lit; set before.
float sun_ = 1.0;
vec3 litThrough(vec3 albedo, vec3 through, vec3 n, vec3 sunLeft, vec3 skyLeft) {
  float c = dot(n, uSun);
  vec3 sun = sun_ * uSunLight * sunLeft * (c > 0.0 ? albedo * c : through * -c) / 3.14159;
  return sun + (albedo * ambientOn(n) + through * ambientOn(-n)) * skyLeft;
}
// What is left of the sky among leaf of a colour: leaf that throws light on or lets it through shades less (Goudriaan 1977).
vec3 skyAmong(float open, vec3 albedo) {
  return exp2(log2(max(open, 0.01)) * sqrt(max(1.0 - 1.6 * albedo, vec3(0.1))));
}
// What those about it leave of the sky, by its height against the whole plant's; by eye.
float amongOthers(float up) {
  return mix(0.6, 1.0, smoothstep(0.0, 0.8, up));
}
vec3 lit(vec3 albedo, vec3 through, vec3 n, float open) {
  return litThrough(albedo, through, n, vec3(1.0), vec3(open));
}

// Sun mirrored by a glossy surface, and light it gives off by itself: as in rookery-render/src/integrator.rs.
vec3 finished(vec3 colour, vec3 albedo, vec3 n, vec3 toPoint, vec2 sheenGlow) {
  if (sheenGlow.x > 0.0) {
    vec3 h = normalize(uSun - normalize(toPoint));
    float mirrored = 0.04 + 0.96 * pow(1.0 - clamp(dot(uSun, h), 0.0, 1.0), 5.0);
    float lobe = pow(max(dot(n, h), 0.0), 28.0) * 36.0 / 25.1327;
    colour += sun_ * uSunLight * (sheenGlow.x * mirrored * lobe * max(dot(n, uSun), 0.0));
  }
  return colour + albedo * (sheenGlow.y * 1.5);
}

// Air alone.
vec3 hazed(vec3 colour, vec3 toPoint) {
  float d = length(toPoint);
  float level = length(toPoint.xz);
  float c = level > 1e-4 ? dot(toPoint.xz, uSun.xz) / (level * max(length(uSun.xz), 1e-4)) : 0.0;
  return mix(uAir[0] + uAir[1] * c + uAir[2] * (c * c), colour, exp(-uClear * d / uHaze));
}
// The share of light that so many metres of water leave; none of what lies deep.
vec3 throughWater(float metres) {
  return exp(vec3(-0.46, -0.14, -0.10) * metres);
}
// Water, where there is some before the point, and air.
vec3 aired(vec3 colour, vec3 toPoint) {
  float down = uWater - cameraPosition.y - toPoint.y;
  if (down > 0.0 && cameraPosition.y > uWater) {
    vec3 clear = throughWater(down / max(-toPoint.y, 1e-4) * length(toPoint));
    colour = mix(uDeep, colour, clear);
  }
  return hazed(colour, toPoint);
}

// Khronos PBR Neutral, as in rookery-render/src/film.rs.
vec3 toned(vec3 c) {
  c *= uExposure;
  float low = min(c.r, min(c.g, c.b));
  c -= low < 0.08 ? low - 6.25 * low * low : 0.04;
  float peak = max(c.r, max(c.g, c.b));
  if (peak < 0.76) return c;
  float top = 1.0 - 0.0576 / (peak + 0.24 - 0.76);
  float g = 1.0 - 1.0 / (0.15 * (peak - top) + 1.0);
  return mix(c * (top / peak), vec3(top), g);
}
`
