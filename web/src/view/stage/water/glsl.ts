import { WAVES } from './sea'

/** How land shelters water, and how far waves wet the land: as rookery-core/src/water has it. Needs `CLOUDS_GLSL`, whose table tears the edges. */
export const SHORES_GLSL = /* glsl */ `
uniform vec4 uSeaFacts;
uniform sampler2D uShores;
uniform vec4 uShoresAt;
uniform vec2 uShoresIn;

// Height of the land over the water, how many times as quick as over open water the peak of the waves is, and whether this is on the land's plan.
vec3 shoreAt(vec2 p) {
  if (uShoresIn.x < 1.0) return vec3(-60.0, 1.0, 0.0);
  vec2 share = (p - uShoresAt.xy) / uShoresAt.zw;
  vec2 inside = clamp(share, 0.0, 1.0);
  vec2 found = textureLod(uShores, (inside * (uShoresIn - 1.0) + 0.5) / uShoresIn, 0.0).rg;
  float away = length(share - inside);
  return vec3(found.r, mix(found.g, 1.0, smoothstep(0.0, 1.0, min(away * 2.0, 1.0))), away > 0.0 ? 0.0 : 1.0);
}
float wavesHigh(float ratio) {
  return uSeaFacts.y / (ratio * sqrt(ratio));
}
float table(vec2 at) {
  return textureLod(uBillows, at, 0.0).r;
}
float wetAt(vec3 p) {
  float over = p.y - uSeaFacts.w;
  // No wave runs higher than this.
  if (over > 1.4 * (0.03 + 0.45 * uSeaFacts.y)) return 0.0;
  if (over <= 0.0) return 1.0;
  float run = (0.03 + 0.45 * wavesHigh(shoreAt(p.xz).y)) * (0.6 + 0.8 * table(p.xz / 5.3));
  return 1.0 - smoothstep(0.55 * run, run, over);
}
`

/** The surface: as rookery-core/src/water/{waves,sea}.rs and rookery-render/src/water.rs have it. Needs `SHORES_GLSL`. */
export const SEA_GLSL = /* glsl */ `
uniform vec4 uSea[${WAVES}];
uniform vec4 uSeaIs[${WAVES}];
uniform float uSeaFine;

// Slopes that can be told apart, and the variance of those that cannot.
vec3 seaSlopes(vec2 p, float ratio, float fine) {
  vec3 found = vec3(0.0);
  float sheltered = clamp((ratio - 1.0) * 4.0, 0.0, 1.0);
  float last = 1.0;
  for (int i = 0; i < ${WAVES}; i++) {
    vec4 is = uSeaIs[i];
    last = mix(1.0, smoothstep(0.7 * ratio, 1.05 * ratio, is.y), sheltered);
    float told = clamp((is.x / fine - 2.0) * 0.5, 0.0, 1.0);
    if (told <= 0.0) {
      // Those that follow are shorter still.
      last = mix(1.0, smoothstep(0.7 * ratio, 1.05 * ratio, uSeaIs[${WAVES - 1}].y), sheltered);
      found.z += is.z * last * last;
      break;
    }
    vec4 w = uSea[i];
    float slope = w.w * last;
    found.z += 0.5 * slope * slope * (1.0 - told * told);
    // Minus the sine of so many turns, to a thousandth: a parabola, bent to it.
    float t = fract(dot(w.xy, p) + w.z) - 0.5;
    float bow = t * (8.0 - 16.0 * abs(t));
    float rise = slope * told * is.x * (bow + 0.225 * (bow * abs(bow) - bow));
    found.xy += rise * w.xy;
  }
  found.z += uSeaFacts.x * last * last;
  return found;
}
float fresnel(float c) {
  return 0.02 + 0.98 * pow(1.0 - clamp(c, 0.0, 1.0), 5.0);
}
float foamAt(vec2 p, vec3 shore) {
  float high = wavesHigh(shore.y);
  float depth = max(-shore.x / (0.05 + 0.9 * high), 0.0);
  float foam = 0.0;
  // A loop without a turn costs nothing on a processor, where both sides of an if are worked out.
  int looks = shore.z > 0.5 && depth < 1.0 ? 1 : 0;
  for (int k = 0; k < looks; k++) {
    float torn = table(p / 5.3);
    float lace = table(p / 1.7 + vec2(0.31, 0.17));
    float crest = 1.0 - smoothstep(0.0, 0.34, fract(1.6 * depth + uSeaFacts.z + 0.45 * torn));
    float broken = crest * smoothstep(0.5, 0.75, lace + 0.4 * crest) * (1.0 - depth);
    float edge = 0.7 * (1.0 - smoothstep(0.0, 0.14, depth)) * smoothstep(0.35, 0.7, lace);
    foam = min(broken + edge, 1.0) * smoothstep(0.02, 0.14, high);
  }
  return foam;
}
// Of the sun's light what facets mirror to the eye.
float glitterAt(vec3 v, vec3 slopes) {
  vec3 h = uSun - v;
  if (h.y <= 1e-4 || uSun.y <= 0.0) return 0.0;
  vec2 off = -h.xz / h.y - slopes.xy;
  float variance = max(0.5 * slopes.z, 0.0012);
  float spread = exp(-0.5 * dot(off, off) / variance) / (6.2831853 * variance);
  h = normalize(h);
  float h2 = h.y * h.y;
  return min(fresnel(dot(uSun, h)) * spread / (4.0 * h2 * h2 * (max(-v.y, 0.0) + 0.8 * sqrt(variance))), 4.0);
}
`
