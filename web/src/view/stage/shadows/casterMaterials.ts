import { DoubleSide, ShaderMaterial, Vector3, type DataTexture } from 'three'
import { INSTANCE_GLSL, MOVES_GLSL, swayUniforms } from '../plantMaterials'
import type { SpeciesMeshes } from '../species'

const NOTHING = 'void main() { gl_FragColor = vec4(1.0); }'

/** What stands still, and has its place from its object. */
export function plainCaster(): ShaderMaterial {
  return new ShaderMaterial({
    side: DoubleSide,
    vertexShader: 'void main() { gl_Position = projectionMatrix * viewMatrix * modelMatrix * vec4(position, 1.0); }',
    fragmentShader: NOTHING,
  })
}

/** Plants as meshes. */
export function meshCaster(height: number): ShaderMaterial {
  return new ShaderMaterial({
    uniforms: swayUniforms(height),
    side: DoubleSide,
    vertexShader: /* glsl */ `
      ${INSTANCE_GLSL}
      void main() {
        gl_Position = projectionMatrix * viewMatrix * vec4(placed(position), 1.0);
      }`,
    fragmentShader: NOTHING,
  })
}

/** Plants as crossed sheets with the holes of their pictures. */
export function cardCaster(height: number, picture: DataTexture): ShaderMaterial {
  return new ShaderMaterial({
    uniforms: { ...swayUniforms(height), uColours: { value: picture } },
    side: DoubleSide,
    vertexShader: /* glsl */ `
      attribute vec3 aColour;
      ${INSTANCE_GLSL}
      varying vec2 vAt;
      void main() {
        vAt = aColour.xy;
        gl_Position = projectionMatrix * viewMatrix * vec4(placed(position), 1.0);
      }`,
    fragmentShader: /* glsl */ `
      uniform sampler2D uColours;
      varying vec2 vAt;
      void main() {
        if (texture2D(uColours, vAt).a < 0.5) discard;
        gl_FragColor = vec4(1.0);
      }`,
  })
}

/** Plants a few pixels large: an oval as high and wide as the plant is seen whence the light comes, with as many holes as it has. */
export function dotCaster({ species, covered_m2 }: SpeciesMeshes): ShaderMaterial {
  const { height_m: height, radius_m: radius } = species
  const oval = (Math.PI * radius * height) / 2
  return new ShaderMaterial({
    uniforms: {
      ...swayUniforms(height),
      uBody: { value: new Vector3(height, radius, Math.min(0.95, covered_m2 / Math.max(oval, 1e-9))) },
      uPxPerMetre: { value: 1 },
    },
    vertexShader: /* glsl */ `
      attribute vec4 iPlace;
      attribute vec4 iTint;
      ${MOVES_GLSL}
      uniform vec3 uBody;
      uniform float uPxPerMetre;
      varying vec3 vOval;
      void main() {
        float high = uBody.x * iPlace.w * exp2((iTint.z * 255.0 - 128.0) / 64.0);
        float wide = uBody.y * iPlace.w;
        // The third row of the camera is the way it looks from.
        float steep = abs(viewMatrix[1][2]);
        float up = 0.5 * high * sqrt(1.0 - steep * steep) + wide * steep;
        float reach = max(up, wide);
        gl_Position = projectionMatrix * viewMatrix * vec4(carried(iPlace.xyz, rideOf()) + vec3(0.0, 0.5 * high, 0.0), 1.0);
        gl_PointSize = clamp(2.0 * reach * uPxPerMetre, 1.0, 32.0);
        vOval = vec3(reach / wide, reach / up, gl_PointSize);
      }`,
    fragmentShader: /* glsl */ `
      uniform vec3 uBody;
      varying vec3 vOval;
      void main() {
        vec2 c = (gl_PointCoord * 2.0 - 1.0) * vOval.xy;
        if (dot(c, c) > 1.0) discard;
        if (fract(sin(dot(floor(gl_FragCoord.xy), vec2(12.9898, 78.233))) * 43758.5453) > uBody.z) discard;
        gl_FragColor = vec4(1.0);
      }`,
  })
}
