import { Matrix4, ShaderMaterial, type IUniform } from 'three'
import { LIGHT_GLSL } from './light'
import { SOILS_GLSL, soilUniforms } from './soils'
import { SHORES_GLSL } from './water/glsl'

const VERTEX = /* glsl */ `
attribute vec3 aColour;
attribute float aLaid;
varying vec3 vColour;
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
  gl_Position = projectionMatrix * viewMatrix * point;
}`

const FRAGMENT = /* glsl */ `
${LIGHT_GLSL}
${SHORES_GLSL}
${SOILS_GLSL}
uniform sampler2D uGrain;
uniform float uContour;
uniform float uOverlay;
uniform sampler2D uOverlayMap;
uniform sampler2D uRamp;
uniform vec2 uSize;
uniform float uCut;
varying vec3 vColour;
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

// Grain at a point, laid along the three axes and mixed by how the ground faces; adds so much of its slopes to a normal's tilt.
vec4 grained(vec3 p, vec3 n, inout vec3 tilt, float much) {
  vec3 w = n * n;
  w *= w;
  w /= w.x + w.y + w.z;
  vec4 all = vec4(0.0);
  if (w.y > 0.04) {
    vec4 g = texture2D(uGrain, p.xz) * 2.0 - 1.0;
    all += g * w.y;
    tilt -= vec3(g.b, 0.0, g.a) * (w.y * much);
  }
  if (w.x > 0.04) {
    vec4 g = texture2D(uGrain, p.zy + 0.37) * 2.0 - 1.0;
    all += g * w.x;
    tilt -= vec3(0.0, g.a, g.b) * (w.x * much);
  }
  if (w.z > 0.04) {
    vec4 g = texture2D(uGrain, p.xy + 0.71) * 2.0 - 1.0;
    all += g * w.z;
    tilt -= vec3(g.b, g.a, 0.0) * (w.z * much);
  }
  return all;
}

void main() {
  vec3 n = normalize(vNormal);
  vec3 toPoint = vPoint - cameraPosition;
  vec3 albedo = vColour;
  if (uCut > 0.5) {
    float layers = texture2D(uGrain, vec2((vRest.x + vRest.z) * 0.01, vRest.y * 0.06)).g * 2.0 - 1.0;
    albedo = vec3(0.13, 0.10, 0.072) * (1.0 + 0.45 * layers);
  } else {
    // As rookery-core/src/ground/colour.rs has it: grain on all of it, and where it is steep ledges that run level.
    float steep = smoothstep(0.93, 0.62, n.y);
    float near2 = dot(toPoint, toPoint);
    vec3 tilt = vec3(0.0);
    float tone = 0.0;
    vec4 broad = grained(vRest * 0.083, n, tilt, 0.11);
    tone += 0.12 * broad.g;
    // Shifted here and there, so that no eye finds where it repeats.
    vec3 at = vRest + 0.9 * (textureLod(uGrain, vRest.xz * 0.083, 5.0).rgr - 0.5);
    // Up close it is finer things that stand out: those of the next scale, and what grows and lies there.
    float off = mix(0.5, 1.0, smoothstep(36.0, 900.0, near2));
    // Grain finer than a pixel only costs time.
    if (near2 < 8100.0) tone += 0.34 * off * grained(at * vec3(0.61, 0.61 * (1.0 + steep), 0.61), n, tilt, 0.42 * off).r;
    if (near2 < 100.0) tone += 0.16 * (1.0 - near2 / 100.0) * grained(at * 3.1, n, tilt, 0.3 * (1.0 - near2 / 100.0)).r;
    if (steep > 0.0) {
      // Ledges run together into one tone from far off.
      float far = 0.4 + 0.6 / (1.0 + near2 / 40000.0);
      tone += steep * (0.42 * far * grained(vRest * vec3(0.05, 0.23, 0.05), n, tilt, steep * 0.6 * far).r - 0.06);
    }
    // A loop that takes no turn is skipped, where both sides of an if are worked out.
    for (int k = 0; k < int(uSoilsIn); k++) albedo = soiled(vRest.xz, albedo);
    albedo *= clamp(1.0 + tone, 0.45, 1.6);
    n = normalize(n + tilt);
  }
  sun_ = sunlit(vPoint, normalize(vNormal));
  // Wet by waves: darker, and it shines.
  float over = vPoint.y - uSeaFacts.w;
  float wet = over <= 0.0 && uCut < 0.5 ? 1.0 : 0.0;
  int runs = uCut < 0.5 && over > 0.0 && over < 1.4 * (0.03 + 0.45 * uSeaFacts.y) ? 1 : 0;
  for (int k = 0; k < runs; k++) wet = wetAt(vPoint);
  albedo *= 1.0 - 0.42 * wet;
  vec3 colour = lit(albedo, vec3(0.0), n, 0.95 * openAt(vPoint));
  // Below water none is seen shining.
  for (int k = 0; k < runs; k++) colour = finished(colour, albedo, n, toPoint, vec2(0.5 * wet, 0.0));
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
    uniforms: { ...restUniforms(), ...soilUniforms(), ...uniforms, uCut: { value: cut ? 1 : 0 } },
  })
}
