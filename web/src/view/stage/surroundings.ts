import { BackSide, CircleGeometry, Matrix4, Mesh, PlaneGeometry, ShaderMaterial, SphereGeometry } from 'three'
import { LIGHT_GLSL, lightUniforms } from './light'
import { mirrorUniforms } from './mirror'

/**
 * The sky: at the end of all depths, and drawn last of what is solid, so that only what is left free of it is worked out. It is so smooth that it is worked
 * out at corners half a degree to three degrees apart, closest at the horizon. Below that lies the deep, where there is water.
 */
export function makeSky(): Mesh {
  const material = new ShaderMaterial({
    uniforms: lightUniforms,
    side: BackSide,
    depthWrite: false,
    vertexShader: /* glsl */ `
      ${LIGHT_GLSL}
      varying vec3 vLight;
      varying vec3 vDirection;
      void main() {
        vDirection = position;
        vLight = skyLight(normalize(position));
        vec4 p = projectionMatrix * vec4(mat3(modelViewMatrix) * position, 1.0);
        gl_Position = p.xyww;
      }`,
    fragmentShader: /* glsl */ `
      ${LIGHT_GLSL}
      varying vec3 vLight;
      varying vec3 vDirection;
      void main() {
        vec3 colour = vLight;
        vec3 d = normalize(vDirection);
        if (d.y < 0.0 && cameraPosition.y > uWater && uWater > -1e5) colour = hazed(uDeep, d * min((cameraPosition.y - uWater) / max(-d.y, 1e-5), 1e6));
        gl_FragColor = vec4(toned(colour), 1.0);
        #include <colorspace_fragment>
      }`,
  })
  const dome = new SphereGeometry(1, 96, 72)
  // Rings closer together towards the horizon: heights as their cubes, half and half with what they are.
  const at = dome.getAttribute('position')
  for (let i = 0; i < at.count; i++) {
    const y = at.getY(i)
    const to = Math.max(-1, Math.min(1, 0.35 * y + 0.65 * y * y * y))
    const level = Math.hypot(at.getX(i), at.getZ(i))
    const wide = level > 1e-6 ? Math.sqrt(1 - to * to) / level : 0
    at.setXYZ(i, at.getX(i) * wide, to, at.getZ(i) * wide)
  }
  const sky = new Mesh(dome, material)
  sky.frustumCulled = false
  sky.renderOrder = 10
  return sky
}

/** Ripples and mirror of water: as in rookery-render/src/integrator.rs. Needs `LIGHT_GLSL`. */
const WATER_GLSL = /* glsl */ `
vec3 rippled(vec2 p, float d) {
  float strength = 0.055 / (1.0 + d * 0.006);
  vec2 slope = vec2(0.0);
  const vec3 waves[4] = vec3[4](vec3(0.4, 3.1, 1.0), vec3(1.3, 1.9, 0.8), vec3(2.3, 0.93, 0.6), vec3(-0.5, 0.61, 0.5));
  for (int k = 0; k < 4; k++) {
    float s = sin(waves[k].x);
    float c = cos(waves[k].x);
    float phase = (p.x * c + p.y * s) * (6.2831853 / waves[k].y) + 1.7 * sin((p.x * s - p.y * c) / (waves[k].y * 2.3));
    slope += vec2(c, s) * (cos(phase) * waves[k].z * strength);
  }
  return normalize(vec3(-slope.x, 1.0, -slope.y));
}`

/** Uniforms of a sheet that says by itself what is below it, as it lies higher than the water that is everywhere. */
const waterMaterial = (own: boolean) =>
  new ShaderMaterial({
    uniforms: { ...lightUniforms, ...(own ? { uMirrored: { value: 0 }, uMirror: { value: null }, uMirrorTo: { value: new Matrix4() } } : mirrorUniforms), uOwn: { value: own ? 1 : 0 } },
    transparent: true,
    vertexShader: /* glsl */ `
      varying vec3 vPoint;
      void main() {
        vec4 p = modelMatrix * vec4(position, 1.0);
        vPoint = p.xyz;
        gl_Position = projectionMatrix * viewMatrix * p;
      }`,
    fragmentShader: /* glsl */ `
      ${LIGHT_GLSL}
      ${WATER_GLSL}
      uniform float uOwn;
      uniform sampler2D uMirror;
      uniform mat4 uMirrorTo;
      uniform float uMirrored;
      varying vec3 vPoint;
      void main() {
        vec3 toPoint = vPoint - cameraPosition;
        float d = length(toPoint);
        vec3 v = toPoint / d;
        vec3 n = rippled(vPoint.xz, d);
        float share = 0.02 + 0.98 * pow(1.0 - clamp(dot(-v, n), 0.0, 1.0), 5.0);
        vec3 up = reflect(v, n);
        up = normalize(vec3(up.x, max(abs(up.y), 0.01), up.z));
        vec3 mirrored = skyLight(up);
        mirrored = toned(hazed(mirrored, toPoint));
        if (uMirrored > 0.5) {
          // Where what is mirrored stands about so far off; what is nearer or farther is shifted a little.
          vec4 at = uMirrorTo * vec4(vPoint + up * 20.0, 1.0);
          vec2 uv = at.xy / at.w * 0.5 + 0.5;
          if (at.w > 0.0 && all(greaterThan(uv, vec2(0.0))) && all(lessThan(uv, vec2(1.0)))) mirrored = texture2D(uMirror, uv).rgb;
        }
        float alpha = share;
        if (uOwn > 0.5) {
          alpha = mix(0.62, 1.0, share);
          mirrored = mix(toned(hazed(uDeep, toPoint)), mirrored, share / alpha);
        }
        gl_FragColor = vec4(mirrored, alpha);
        #include <colorspace_fragment>
      }`,
  })

/** The water that is everywhere: a wide disk at its level, mirroring the sky more the flatter it is looked at. What lies below is dimmed by itself. */
export function makeWater(): Mesh {
  const water = new Mesh(new CircleGeometry(9000, 64).rotateX(-Math.PI / 2), waterMaterial(false))
  water.visible = false
  return water
}

/** Of bounded sheets. */
export const poolMaterial = () => waterMaterial(true)

export interface WaterPlane {
  height_m: number
  x_m: number
  z_m: number
  width_m: number
  depth_m: number
  turn_deg: number
  round: boolean
}

/** A sheet of water with an end, in the look of the water that is everywhere. */
export function waterPlane(w: WaterPlane, material: ShaderMaterial): Mesh {
  const shape = w.round ? new CircleGeometry(0.5, 48) : new PlaneGeometry(1, 1)
  const water = new Mesh(shape.rotateX(-Math.PI / 2).scale(w.width_m, 1, w.depth_m), material)
  water.position.set(w.x_m, w.height_m, w.z_m)
  water.rotation.y = (-w.turn_deg * Math.PI) / 180
  return water
}
