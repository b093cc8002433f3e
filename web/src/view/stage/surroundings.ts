import { BackSide, CircleGeometry, Float32BufferAttribute, Matrix4, Mesh, PlaneGeometry, ShaderMaterial, SphereGeometry } from 'three'
import { LIGHT_GLSL, lightUniforms } from './light'
import { mirrorUniforms } from './mirror'
import { SEA_GLSL, SHORES_GLSL } from './water/glsl'
import { ratioOver } from './water/sea'

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
        vec3 d = normalize(vDirection);
        vec3 colour = clouded(vLight, cameraPosition, d);
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

/** Uniforms of a sheet that says by itself what is below it, as it lies higher than the water that is everywhere. */
const waterMaterial = (own: boolean) =>
  new ShaderMaterial({
    uniforms: { ...lightUniforms, ...(own ? { uMirrored: { value: 0 }, uMirror: { value: null }, uMirrorTo: { value: new Matrix4() } } : mirrorUniforms), uOwn: { value: own ? 1 : 0 } },
    transparent: true,
    vertexShader: /* glsl */ `
      attribute float aRatio;
      varying vec3 vPoint;
      varying float vRatio;
      void main() {
        vec4 p = modelMatrix * vec4(position, 1.0);
        vPoint = p.xyz;
        vRatio = aRatio;
        gl_Position = projectionMatrix * viewMatrix * p;
      }`,
    fragmentShader: /* glsl */ `
      ${LIGHT_GLSL}
      ${SHORES_GLSL}
      ${SEA_GLSL}
      uniform float uOwn;
      uniform sampler2D uMirror;
      uniform mat4 uMirrorTo;
      uniform float uMirrored;
      varying vec3 vPoint;
      varying float vRatio;
      void main() {
        vec3 toPoint = vPoint - cameraPosition;
        float d = length(toPoint);
        vec3 v = toPoint / d;
        float down = max(-v.y, 0.0);
        vec3 shore = shoreAt(vPoint.xz);
        vec3 slopes = seaSlopes(vPoint.xz, vRatio > 0.5 ? vRatio : shore.y, uSeaFine * d / sqrt(max(down, 0.03)));
        // Of facets too fine to be told apart those are seen that lean towards the eye.
        float deviation = sqrt(0.5 * slopes.z);
        float lean = deviation * deviation * sqrt(max(1.0 - down * down, 0.0)) / max(down + 0.8 * deviation, 1e-4);
        vec2 level = length(v.xz) > 1e-4 ? normalize(v.xz) : vec2(0.0);
        vec2 tilt = slopes.xy + level * lean;
        vec3 n = normalize(vec3(-tilt.x, 1.0, -tilt.y));
        float share = fresnel(dot(-v, n));
        vec3 up = reflect(v, n);
        up = normalize(vec3(up.x, max(abs(up.y), 0.01), up.z));
        vec3 mirrored = clouded(skyLight(up), vPoint, up);
        mirrored = toned(hazed(mirrored, toPoint));
        if (uMirrored > 0.5) {
          // Where what is mirrored stands about so far off; what is nearer or farther is shifted a little.
          vec4 at = uMirrorTo * vec4(vPoint + up * 20.0, 1.0);
          vec2 uv = at.xy / at.w * 0.5 + 0.5;
          if (at.w > 0.0 && all(greaterThan(uv, vec2(0.0))) && all(lessThan(uv, vec2(1.0)))) mirrored = texture2D(uMirror, uv).rgb;
        }
        float glints = glitterAt(v, slopes);
        float foam = vRatio > 0.5 ? 0.0 : foamAt(vPoint.xz, shore);
        // Shadows are dear to look up. A loop without a turn costs nothing on a processor, where both sides of an if are worked out.
        float sun = 0.0;
        int looks = glints > 0.004 || foam > 0.0 ? 1 : 0;
        for (int k = 0; k < looks; k++) sun = sunlit(vPoint, vec3(0.0, 1.0, 0.0));
        vec3 glitter = toned(uSunLight * (glints * sun * exp(-uClear * d / uHaze)));
        float alpha = share;
        if (uOwn > 0.5) {
          alpha = mix(0.62, 1.0, share);
          mirrored = mix(toned(hazed(uDeep, toPoint)), mirrored, share / alpha);
        }
        // Glitter hides what lies below as far as it is brighter.
        float bright = max(alpha, min(max(glitter.r, max(glitter.g, glitter.b)), 1.0));
        mirrored = min((mirrored * alpha + glitter) / max(bright, 1e-3), 1.0);
        alpha = bright;
        if (foam > 0.0) {
          vec3 white = 0.78 * (ambientOn(vec3(0.0, 1.0, 0.0)) + uSunLight * (sun * max(uSun.y, 0.0) / 3.14159));
          mirrored = mix(mirrored * alpha, toned(hazed(white, toPoint)), foam) / max(mix(alpha, 1.0, foam), 1e-3);
          alpha = mix(alpha, 1.0, foam);
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
  const fetch = ratioOver(Math.sqrt(w.width_m * w.depth_m))
  shape.setAttribute('aRatio', new Float32BufferAttribute(new Float32Array(shape.getAttribute('position').count).fill(fetch), 1))
  const water = new Mesh(shape.rotateX(-Math.PI / 2).scale(w.width_m, 1, w.depth_m), material)
  water.position.set(w.x_m, w.height_m, w.z_m)
  water.rotation.y = (-w.turn_deg * Math.PI) / 180
  return water
}
