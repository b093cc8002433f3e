import { DoubleSide, FrontSide, ShaderMaterial, type IUniform } from 'three'
import { LIGHT_GLSL } from './light'

const VERTEX = /* glsl */ `
attribute vec3 aColour;
attribute float aMask;
varying vec3 vColour;
varying vec3 vPoint;
varying vec3 vNormal;
varying float vMask;
void main() {
  vColour = aColour * aColour;
  vPoint = position;
  vNormal = normal;
  vMask = aMask;
  gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
}`

const FRAGMENT = /* glsl */ `
${LIGHT_GLSL}
uniform sampler2D uGrain;
uniform float uContour;
uniform float uMask;
uniform float uCut;
varying vec3 vColour;
varying vec3 vPoint;
varying vec3 vNormal;
varying float vMask;

// cividis (Nunez, Anderton & Renslow 2018) by straight pieces between four of its colours, read from memory.
vec3 cividis(float t) {
  vec3 a = vec3(0.0, 0.135, 0.305), b = vec3(0.36, 0.37, 0.43), c = vec3(0.62, 0.59, 0.46), d = vec3(0.995, 0.91, 0.22);
  vec3 s = t < 0.35 ? mix(a, b, t / 0.35) : t < 0.65 ? mix(b, c, (t - 0.35) / 0.3) : mix(c, d, (t - 0.65) / 0.35);
  return pow(s, vec3(2.2));
}

void main() {
  vec3 n = normalize(vNormal);
  vec3 toPoint = vPoint - cameraPosition;
  vec3 albedo = vColour;
  if (uCut > 0.5) {
    float layers = texture2D(uGrain, vec2((vPoint.x + vPoint.z) * 0.01, vPoint.y * 0.06)).g * 2.0 - 1.0;
    albedo = vec3(0.13, 0.10, 0.072) * (1.0 + 0.45 * layers);
  } else {
    float steep = smoothstep(0.93, 0.62, n.y);
    vec4 broad = texture2D(uGrain, vPoint.xz * 0.083) * 2.0 - 1.0;
    vec2 tilt = 0.5 * broad.ba;
    float tone = 0.24 * broad.r;
    // Grain finer than a pixel only costs time.
    if (dot(toPoint, toPoint) < 4900.0) {
      vec4 fine = texture2D(uGrain, vPoint.xz * 0.61) * 2.0 - 1.0;
      tone += 0.26 * fine.r;
      tilt += 0.7 * fine.ba;
    }
    tilt *= 0.34;
    float rise = 0.0;
    if (steep > 0.0) {
      vec4 wall = texture2D(uGrain, vec2((vPoint.x + vPoint.z) * 0.085, vPoint.y * 0.23)) * 2.0 - 1.0;
      tone = mix(tone, 0.4 * wall.r + 0.28 * wall.g, steep);
      tilt = mix(tilt, vec2(wall.b, wall.b) * 0.5, steep);
      rise = steep * wall.a * 0.6;
    }
    albedo *= clamp(1.0 + tone, 0.45, 1.6);
    n = normalize(n + vec3(tilt.x, rise, tilt.y));
  }
  vec3 colour = lit(albedo, vec3(0.0), n, 0.95);
  if (uMask > 0.5 && uCut < 0.5) {
    colour = mix(colour * 0.35, cividis(vMask) * (0.55 + 0.45 * max(dot(n, uSun), 0.0)), 0.82);
  }
  if (uContour > 0.0 && uCut < 0.5) {
    float h = vPoint.y / uContour;
    float w = fwidth(h);
    float line = 1.0 - smoothstep(0.6, 1.5, abs(fract(h + 0.5) - 0.5) / w);
    float fifth = abs(fract(h / 5.0 + 0.5) - 0.5) * 5.0 < 0.5 ? 1.0 : 0.55;
    colour = mix(colour, colour * 0.45, line * fifth * 0.6 * smoothstep(0.6, 0.2, w));
  }
  gl_FragColor = vec4(toned(aired(colour, toPoint)), 1.0);
  #include <colorspace_fragment>
}`

/** Earth and rock; `cut` is for the sides of the block of ground. */
export function groundMaterial(uniforms: Record<string, IUniform>, cut: boolean): ShaderMaterial {
  return new ShaderMaterial({
    vertexShader: VERTEX,
    fragmentShader: FRAGMENT,
    uniforms: { ...uniforms, uCut: { value: cut ? 1 : 0 } },
    side: cut ? DoubleSide : FrontSide,
  })
}
