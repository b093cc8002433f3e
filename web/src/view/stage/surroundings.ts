import { BackSide, CircleGeometry, Mesh, PlaneGeometry, ShaderMaterial, SphereGeometry } from 'three'
import { LIGHT_GLSL, lightUniforms } from './light'

/** The sky: at the end of all depths, and drawn last of what is solid, so that only what is left free of it is worked out. */
export function makeSky(): Mesh {
  const material = new ShaderMaterial({
    uniforms: lightUniforms,
    side: BackSide,
    depthWrite: false,
    vertexShader: /* glsl */ `
      varying vec3 vDirection;
      void main() {
        vDirection = position;
        vec4 p = projectionMatrix * vec4(mat3(modelViewMatrix) * position, 1.0);
        gl_Position = p.xyww;
      }`,
    fragmentShader: /* glsl */ `
      ${LIGHT_GLSL}
      varying vec3 vDirection;
      void main() {
        gl_FragColor = vec4(toned(skyLight(normalize(vDirection)) * 1.45), 1.0);
        #include <colorspace_fragment>
      }`,
  })
  const sky = new Mesh(new SphereGeometry(1, 48, 24), material)
  sky.frustumCulled = false
  sky.renderOrder = 10
  return sky
}

/** The water: a wide disk at its level, mirroring the sky more the flatter it is looked at. */
export function makeWater(): Mesh {
  const material = new ShaderMaterial({
    uniforms: lightUniforms,
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
      varying vec3 vPoint;
      void main() {
        vec3 toPoint = vPoint - cameraPosition;
        float d = length(toPoint);
        vec3 v = toPoint / d;
        float strength = 0.05 / (1.0 + d * 0.02);
        vec2 p = vPoint.xz;
        vec2 slope = vec2(cos(p.x * 2.0 + 1.7 * sin(p.y * 0.6)), cos(p.y * 2.7 + 1.3 * sin(p.x * 0.9)))
                   + 0.6 * vec2(cos(p.x * 5.1 - p.y * 3.0), sin(p.y * 6.3 + p.x * 2.2));
        vec3 n = normalize(vec3(slope.x * strength, 1.0, slope.y * strength));
        float mirror = 0.02 + 0.98 * pow(1.0 - max(dot(-v, n), 0.0), 5.0);
        vec3 up = reflect(v, n);
        up.y = abs(up.y);
        vec3 body = vec3(0.035, 0.115, 0.13) * (0.35 + 1.6 * uZenith.g);
        vec3 colour = mix(body, skyLight(up), mirror);
        float alpha = mix(0.72, 1.0, mirror);
        gl_FragColor = vec4(toned(aired(colour, toPoint)), alpha);
        #include <colorspace_fragment>
      }`,
  })
  const water = new Mesh(new CircleGeometry(9000, 64).rotateX(-Math.PI / 2), material)
  water.visible = false
  return water
}

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
