import { Color, Vector3 } from 'three'
import type { Shot } from '../../api/client'
import { SHADOW_GLSL } from './shadows/glsl'
import { shadowUniforms } from './shadows/uniforms'

/** Shared by all materials of the view; one object, so that a change of light reaches every one of them. */
export const lightUniforms = {
  ...shadowUniforms,
  uSun: { value: new Vector3(0.5, 0.6, 0.4).normalize() },
  uSunLight: { value: new Color(3, 2.8, 2.5) },
  uZenith: { value: new Color(0.1, 0.2, 0.4) },
  uHorizon: { value: new Color(0.4, 0.45, 0.5) },
  uOvercast: { value: 0 },
  uHaze: { value: 2600 },
  /** Colour of far air. */
  uAir: { value: new Color(0.3, 0.35, 0.4) },
  uExposure: { value: 1.45 },
  /** 1 with air between the eye and what it sees, 0 without. */
  uClear: { value: 1 },
}

/** Where the sun stands, as a unit vector: azimuth is clockwise from north (-Z), elevation above the horizon. */
export function sunDirection(azimuthDeg: number, elevationDeg: number): Vector3 {
  const a = (azimuthDeg * Math.PI) / 180
  const e = (elevationDeg * Math.PI) / 180
  return new Vector3(Math.sin(a) * Math.cos(e), Math.sin(e), -Math.cos(a) * Math.cos(e))
}

/** Takes the light of a shot, close to that of the ray tracer (`rookery-render/src/light`). */
export function setLight(shot: Pick<Shot, 'sun_azimuth_deg' | 'sun_elevation_deg' | 'overcast'>) {
  const { sun_azimuth_deg: azimuth, sun_elevation_deg: elevation, overcast } = shot
  const sun = sunDirection(azimuth, elevation)
  lightUniforms.uSun.value.copy(sun)
  const air = 1 / (sun.y + 0.15 * Math.max(0.1, elevation + 3.885) ** -1.253)
  const veil = (1 - overcast) ** 2
  const through = (depth: number) => Math.exp(-depth * air) * 3.3 * veil
  lightUniforms.uSunLight.value.setRGB(through(0.055), through(0.115), through(0.235))
  const scale = 0.07 + 0.17 * Math.sqrt(Math.max(0, sun.y))
  const mix = (clear: number, grey: number) => (clear * (1 - overcast) + grey * 3.0 * overcast) * scale
  lightUniforms.uZenith.value.setRGB(mix(0.5, 0.94), mix(0.82, 1.0), mix(1.55, 1.07))
  lightUniforms.uHorizon.value.setRGB(mix(1.9, 0.45), mix(2.2, 0.48), mix(2.6, 0.5))
  const { uZenith, uHorizon, uAir } = lightUniforms
  uAir.value.copy(uZenith.value).lerp(uHorizon.value, 0.9).multiplyScalar(1.0)
  lightUniforms.uOvercast.value = overcast
  lightUniforms.uHaze.value = 2600 - 1400 * overcast
}

/** Light on a surface and the air before it. Albedo is linear; `through` is the share that passes a leaf. */
export const LIGHT_GLSL = /* glsl */ `
uniform vec3 uSun;
uniform vec3 uSunLight;
uniform vec3 uZenith;
uniform vec3 uHorizon;
uniform float uOvercast;
uniform float uHaze;
uniform vec3 uAir;
uniform float uExposure;
uniform float uClear;

vec3 skyLight(vec3 d) {
  float up = max(d.y, 0.0);
  vec3 sky = mix(uZenith, uHorizon, exp(-3.2 * up));
  float toSun = max(dot(d, uSun), 0.0);
  sky += uSunLight * (0.10 * pow(toSun, 24.0) + 0.05 * pow(toSun, 6.0)) * (1.0 - uOvercast);
  return sky;
}

${SHADOW_GLSL}
// How much of the sun reaches what is lit; set before.
float sun_ = 1.0;
vec3 lit(vec3 albedo, vec3 through, vec3 n, float open) {
  float c = dot(n, uSun);
  vec3 sun = sun_ * uSunLight * (c > 0.0 ? albedo * c : through * -c) / 3.14159;
  vec3 ambient = mix(uHorizon * 0.30 + uSunLight * albedo * 0.12, uZenith * 0.75 + uHorizon * 0.42, n.y * 0.5 + 0.5);
  return sun + (albedo + through * 0.5) * ambient * open;
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

vec3 aired(vec3 colour, vec3 toPoint) {
  return mix(uAir, colour, exp(-uClear * length(toPoint) / uHaze));
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
