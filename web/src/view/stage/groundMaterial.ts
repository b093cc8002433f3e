import { Matrix4, ShaderMaterial, type IUniform } from 'three'
import { LIGHT_GLSL } from './light'
import { NAP_GLSL } from './nap/glsl'
import { napUniforms } from './nap/shade'
import { SOILS_GLSL, soilUniforms } from './soils'
import { EARTHS_GLSL, TEXTURES_GLSL } from './textures/glsl'
import { textureUniforms } from './textures/textures'
import { SHORES_GLSL } from './water/glsl'

const VERTEX = /* glsl */ `
attribute vec3 aColour;
attribute vec4 aEarths;
attribute float aLaid;
varying vec3 vColour;
varying vec4 vEarths;
varying vec3 vPoint;
varying vec3 vRest;
varying vec3 vNormal;
varying float vLaid;
uniform mat4 uRest;
uniform float uCarried;
void main() {
  vec4 point = modelMatrix * vec4(position, 1.0);
  vColour = aColour * aColour;
  vPoint = point.xyz;
  // What lies on a moving ground goes with it.
  vRest = uCarried > 0.5 ? (uRest * vec4(position, 1.0)).xyz : vPoint;
  // Grounds are turned and moved, never stretched.
  vNormal = mat3(modelMatrix) * normal;
  vLaid = aLaid;
  vEarths = aEarths;
  gl_Position = projectionMatrix * viewMatrix * point;
}`

const FRAGMENT = /* glsl */ `
${LIGHT_GLSL}
${SHORES_GLSL}
${SOILS_GLSL}
${TEXTURES_GLSL}
${EARTHS_GLSL}
${NAP_GLSL}
uniform sampler2D uGrain;
uniform float uContour;
uniform float uOverlay;
uniform sampler2D uOverlayMap;
uniform sampler2D uRamp;
uniform vec2 uSize;
uniform float uCut;
// Whether this ground bears nap.
uniform float uBears;
varying vec3 vColour;
varying vec4 vEarths;
varying vec3 vPoint;
varying vec3 vRest;
varying vec3 vNormal;
varying float vLaid;
// What is laid over the ground, in the colours of its scale: a picture over a terrain's plan, a value at each vertex of a
// mesh.
vec3 overlaid() {
  if (uOverlay > 1.5) return texture2D(uRamp, vec2((vLaid * 254.0 + 1.5) / 256.0, 0.5)).rgb;
  vec2 samples = vec2(textureSize(uOverlayMap, 0));
  vec2 at = ((vRest.xz / uSize + 0.5) * (samples - 1.0) + 0.5) / samples;
  float value = texture2D(uOverlayMap, at).r;
  return texture2D(uRamp, vec2((value * 255.0 + 0.5) / 256.0, 0.5)).rgb;
}

void main() {
  vec3 n = normalize(vNormal);
  vec3 toPoint = vPoint - cameraPosition;
  float px = pixelOf(vRest);
  vec3 albedo = vColour;
  vec4 tilt = vec4(0.0);
  vec3 sunLeft = vec3(1.0), skyLeft = vec3(1.0);
  if (uCut > 0.5) {
    float layers = texture2D(uGrain, vec2((vRest.x + vRest.z) * 0.01, vRest.y * 0.06)).g * 2.0 - 1.0;
    albedo = vec3(0.13, 0.10, 0.072) * (1.0 + 0.45 * layers);
  } else {
    vec4 earths = vEarths;
    // A loop that takes no turn is skipped, where both sides of an if are worked out.
    for (int k = 0; k < int(uSoilsIn); k++) albedo = soiled(vRest.xz, albedo, earths);
    albedo = min(onGround(vRest, n, albedo, earths, px, length(toPoint), tilt), vec3(1.0));
    n = normalize(n + tilt.xyz);
    // As in rookery-core/src/nap/places.rs: none where it is steep, or under water.
    float leaf = uBears > 0.5 && vNormal.y > 0.6 && vPoint.y > uWater ? napOver(earths, length(toPoint)) : 0.0;
    int shades = leaf > 0.0 ? 1 : 0;
    for (int k = 0; k < shades; k++) {
      sunLeft = sunThrough(leaf, albedo);
      skyLeft = skyThrough(leaf, albedo);
    }
  }
  sun_ = sunlit(vPoint, normalize(vNormal));
  // Wet by waves: darker, and it shines.
  float over = vPoint.y - uSeaFacts.w;
  float wet = over <= 0.0 && uCut < 0.5 ? 1.0 : 0.0;
  int runs = uCut < 0.5 && over > 0.0 && over < 1.4 * (0.03 + 0.45 * uSeaFacts.y) ? 1 : 0;
  for (int k = 0; k < runs; k++) wet = wetAt(vPoint);
  albedo *= 1.0 - 0.42 * wet;
  vec3 colour = litThrough(albedo, vec3(0.0), n, sunLeft, skyLeft * (0.95 * openAt(vPoint)));
  // Below water none is seen shining.
  float gloss = over > 0.0 ? max(0.5 * wet, tilt.w) : 0.0;
  int shines = gloss > 0.0 ? 1 : 0;
  for (int k = 0; k < shines; k++) colour = finished(colour, albedo, n, toPoint, vec2(gloss, 0.0));
  if (uOverlay > 0.5 && uCut < 0.5) {
    // Flat enough to be read against the legend, shaded enough to be ground.
    float shade = 0.62 + 0.38 * max(dot(normalize(vNormal), uSun), 0.0);
    colour = mix(colour * 0.5, overlaid() * shade * 0.58, 0.78);
  }
  if (uContour > 0.0 && uCut < 0.5) {
    float h = vRest.y / uContour;
    float w = fwidth(h);
    float line = 1.0 - smoothstep(0.6, 1.5, abs(fract(h + 0.5) - 0.5) / w);
    float fifth = abs(fract(h / 5.0 + 0.5) - 0.5) * 5.0 < 0.5 ? 1.0 : 0.55;
    colour = mix(colour, colour * 0.45, line * fifth * 0.6 * smoothstep(0.6, 0.2, w));
  }
  gl_FragColor = vec4(toned(aired(colour, toPoint)), 1.0);
  #include <colorspace_fragment>
}`

/** Where a ground that is carried along stands at rest. */
export const restUniforms = () => ({ uRest: { value: new Matrix4() }, uCarried: { value: 0 } })

/** Earth and rock; `cut` is for the sides of the block of ground, which face outwards: one shader does for both. */
export function groundMaterial(uniforms: Record<string, IUniform>, cut: boolean): ShaderMaterial {
  return new ShaderMaterial({
    vertexShader: VERTEX,
    fragmentShader: FRAGMENT,
    uniforms: { ...restUniforms(), ...soilUniforms(), ...textureUniforms, ...napUniforms, uBears: { value: 0 }, ...uniforms, uCut: { value: cut ? 1 : 0 } },
  })
}
