// Written from rookery-core/src/nap/shade.rs: change it there, then run the core tests with ROOKERY_WRITE_SAMPLES=1.
export const NAP_GLSL = /* glsl */ `
// How near it is drawn, against where all of it is; 0 where none is.
uniform float uNapReach;
// 0 for the earths that bring none.
uniform float uNapOf[5];
const float NAP_AREAS[5] = float[5](0.912, 0.139, 0.004, 0.118, 0.005);

// Leaf area over the ground where all of it is, so far from the eye.
float napLeft(float away) {
  float t = uNapReach > 0.0 ? clamp((40.0 - away / uNapReach) / 27.0, 0.0, 1.0) : 0.0;
  return t * t;
}

// Of ground of several earths: so much peat, sand, shingle and rock, the rest turf.
float napOver(vec4 earths, float away) {
  float turf = max(1.0 - dot(earths, vec4(1.0)), 0.0);
  float all = turf * uNapOf[0] * NAP_AREAS[0] + earths.x * uNapOf[1] * NAP_AREAS[1] + earths.y * uNapOf[2] * NAP_AREAS[2]
    + earths.z * uNapOf[3] * NAP_AREAS[3] + earths.w * uNapOf[4] * NAP_AREAS[4];
  return all * napLeft(away);
}

// Of its leaf the share that stands higher.
float napAbove(float height) {
  return pow(clamp(1.0 - height / 0.042, 0.0, 1.0), 1.7);
}

// What passes so much leaf of a colour: of the sun, and of the sky.
vec3 sunThrough(float area, vec3 albedo) {
  return exp(-area * (0.274 / max(uSun.y, 0.1) + 0.219) * sqrt(max(1.0 - 1.6 * albedo, vec3(0.1))));
}
vec3 skyThrough(float area, vec3 albedo) {
  return exp(-0.69 * area * sqrt(max(1.0 - 1.6 * albedo, vec3(0.1))));
}
`
