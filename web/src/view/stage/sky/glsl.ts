import { BRIGHTEST } from './model'

/** The sky of `sky.ts`, and the light on a surface from all of it. */
export const SKY_GLSL = /* glsl */ `
uniform vec3 uSkyShape[9];
uniform vec3 uSkyBright;
uniform vec3 uGrey;
uniform float uOvercast;
uniform vec3 uAmbient[9];

vec3 skyLight(vec3 d) {
  vec3 to = normalize(vec3(d.x, max(d.y, 0.002), d.z));
  float c = clamp(dot(to, uSun), -1.0, 1.0);
  float from = acos(c);
  vec3 h = uSkyShape[8];
  vec3 mie = (1.0 + c * c) / pow(1.0 + h * h - 2.0 * h * c, vec3(1.5));
  vec3 clear = (1.0 + uSkyShape[0] * exp(uSkyShape[1] / (to.y + 0.01)))
    * (uSkyShape[2] + uSkyShape[3] * exp(uSkyShape[4] * from) + uSkyShape[5] * (c * c) + uSkyShape[6] * mie + uSkyShape[7] * sqrt(to.y)) * uSkyBright;
  vec3 grey = uGrey * ((1.0 + 4.0 * exp(-0.7 / max(to.y, 0.01))) / ${(1 + 4 * Math.exp(-0.7)).toFixed(6)});
  return mix(clamp(clear, 0.0, ${BRIGHTEST.toFixed(1)}), grey, uOvercast) * (d.y < 0.0 ? 1.0 + 0.5 * d.y : 1.0);
}

vec3 ambientOn(vec3 n) {
  vec3 a = uAmbient[0] * 0.282095 + 0.488603 * (uAmbient[1] * n.y + uAmbient[2] * n.z + uAmbient[3] * n.x);
  a += 1.092548 * (uAmbient[4] * (n.x * n.y) + uAmbient[5] * (n.y * n.z) + uAmbient[7] * (n.x * n.z));
  a += 0.315392 * uAmbient[6] * (3.0 * n.z * n.z - 1.0) + 0.546274 * uAmbient[8] * (n.x * n.x - n.y * n.y);
  return max(a, 0.0);
}
`
