import { SIDE } from './uniforms'

/** How much of the sun reaches a point, 0 to 1: what is near casts sharply, what is far roughly, the land everywhere; and of the sky. */
export const SHADOW_GLSL = /* glsl */ `
uniform highp sampler2DShadow uShadow0;
uniform highp sampler2DShadow uShadow1;
uniform highp sampler2DShadow uShadow2;
uniform highp sampler2DShadow uShadow3;
uniform highp sampler2DShadow uShadow4;
uniform mat4 uShadowTo[5];
uniform float uShadowPx[5];
uniform float uShadowSoft;
uniform highp sampler2D uAbove;
uniform vec4 uAboveAt;
uniform float uAboveDeep;

/** How much of the sky what stands around a point of the ground leaves free, 0 to 1: the horizons to eight sides, near by. */
float openAt(vec3 p) {
  if (uAboveAt.w <= 0.0) return 1.0;
  vec2 at = (p.xz - uAboveAt.xy) / uAboveAt.w;
  float edge = smoothstep(0.03, 0.12, min(min(at.x, at.y), min(1.0 - at.x, 1.0 - at.y)));
  if (edge <= 0.0) return 1.0;
  float shut = 0.0;
  float spin = fract(sin(dot(floor(p.xz * 90.0), vec2(12.9898, 78.233))) * 43758.5453) * 0.785;
  for (int k = 0; k < 8; k++) {
    float a = float(k) * 0.7854 + spin;
    float r = k % 2 == 0 ? 0.09 : 0.32;
    vec2 off = vec2(cos(a), sin(a)) * r / uAboveAt.w;
    float y = uAboveAt.z - uAboveDeep * texture(uAbove, vec2(at.x + off.x, 1.0 - at.y - off.y)).r;
    float rise = max(y - p.y - 0.015, 0.0);
    shut += rise / sqrt(rise * rise + r * r);
  }
  return 1.0 - 0.75 * edge * shut / 8.0;
}

bool within(vec3 s) {
  return all(greaterThan(s, vec3(0.02))) && all(lessThan(s, vec3(0.98)));
}
vec3 inMap(mat4 to, vec3 p) {
  return (to * vec4(p, 1.0)).xyz * 0.5 + 0.5;
}
float inSun(vec3 p, vec3 n) {
  float lit = 1.0;
  // Looked up a little off the surface, towards the light, or it would shade itself.
  vec3 away = normalize(n + 0.6 * uSun);
  if (uShadowPx[3] > 0.0) {
    vec3 s = inMap(uShadowTo[3], p + away * (uShadowPx[3] * 2.5));
    if (within(s)) lit = texture(uShadow3, s);
  }
  if (uShadowPx[4] > 0.0) {
    vec3 s = inMap(uShadowTo[4], p + away * (uShadowPx[4] * 2.0));
    if (within(s)) lit = min(lit, texture(uShadow4, s));
  }
  if (uShadowPx[0] > 0.0) {
    vec3 s = inMap(uShadowTo[0], p + away * (uShadowPx[0] * 2.2));
    if (within(s)) {
      if (uShadowSoft < 0.5) return min(lit, texture(uShadow0, s));
      vec2 px = vec2(${(1 / SIDE).toFixed(8)});
      float sum = texture(uShadow0, s) * 2.0;
      sum += texture(uShadow0, vec3(s.xy + px * vec2(-1.2, 0.4), s.z)) + texture(uShadow0, vec3(s.xy + px * vec2(0.4, 1.2), s.z));
      sum += texture(uShadow0, vec3(s.xy + px * vec2(1.2, -0.4), s.z)) + texture(uShadow0, vec3(s.xy + px * vec2(-0.4, -1.2), s.z));
      return min(lit, sum / 6.0);
    }
  }
  if (uShadowPx[1] > 0.0) {
    vec3 s = inMap(uShadowTo[1], p + away * (uShadowPx[1] * 1.6));
    if (within(s)) return min(lit, texture(uShadow1, s));
  }
  if (uShadowPx[2] > 0.0) {
    vec3 s = inMap(uShadowTo[2], p + away * (uShadowPx[2] * 1.6));
    if (within(s)) return min(lit, texture(uShadow2, s));
  }
  return lit;
}
float sunlit(vec3 p, vec3 n) {
  return inSun(p, n) * throughClouds(p);
}
`
