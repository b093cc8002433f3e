import { DoubleSide, FrontSide, ShaderMaterial, type DataArrayTexture, type Vector2 } from 'three'
import type { SpeciesMeshes } from './species'
import { bodyMaterial } from './stones'
import { LIGHT_GLSL, lightUniforms } from './light'
import { INSTANCE_GLSL, TINT_GLSL, finishOf, keyUniform, swayUniforms } from './plantMaterials'

/** Instanced forms with pictures on them, lit at every pixel as cards are. */
export function skinMaterial(pictures: DataArrayTexture, thin: boolean, height: number, finish: Vector2): ShaderMaterial {
  return new ShaderMaterial({
    uniforms: { ...lightUniforms, ...keyUniform(), ...swayUniforms(height), uThin: { value: thin ? 1 : 0 }, uHeight: { value: height },
      uFinish: { value: finish }, uPictures: { value: pictures } },
    side: thin ? DoubleSide : FrontSide,
    vertexShader: /* glsl */ `
      attribute vec3 aColour;
      attribute float aThrough;
      attribute vec2 aUv;
      attribute float aPicture;
      ${INSTANCE_GLSL}
      varying vec3 vColour;
      varying vec3 vNormal;
      varying vec3 vPlace;
      varying vec2 vTint;
      varying vec3 vOwn;
      varying vec4 vAt;
      varying float vUp;
      void main() {
        vec3 p = placed(position);
        vColour = aColour;
        vNormal = faced(normal);
        vPlace = p - cameraPosition;
        vTint = iTint.xy;
        vOwn = iColour.rgb;
        vAt = vec4(aUv, aPicture, aThrough);
        vUp = position.y;
        gl_Position = projectionMatrix * viewMatrix * vec4(p, 1.0);
      }`,
    fragmentShader: /* glsl */ `
      ${LIGHT_GLSL}
      ${TINT_GLSL}
      uniform sampler2DArray uPictures;
      uniform float uThin;
      uniform float uHeight;
      uniform vec2 uFinish;
      varying vec3 vColour;
      varying vec3 vNormal;
      varying vec3 vPlace;
      varying vec2 vTint;
      varying vec3 vOwn;
      varying vec4 vAt;
      varying float vUp;
      void main() {
        vec4 seen = vAt.z < -0.5 ? vec4(1.0) : texture(uPictures, vec3(vAt.xy, floor(vAt.z + 0.5)));
        if (seen.a < 0.5) discard;
        vec3 albedo = tinted(vColour * seen.rgb, vTint, vOwn);
        vec3 n = normalize(vNormal);
        vec3 through = vAt.w * albedo * vec3(0.62, 0.66, 0.30);
        float open = uThin > 0.5 ? mix(0.35, 1.0, smoothstep(0.0, 0.8, vUp / uHeight)) : 0.95;
        sun_ = sunlit(vPlace + cameraPosition, uSun);
        gl_FragColor = vec4(toned(aired(finished(lit(albedo, through, n, open), albedo, n, vPlace, uFinish), vPlace)), 1.0);
        #include <colorspace_fragment>
      }`,
  })
}

/** The material for the meshes of a species. */
export function materialOf(look: SpeciesMeshes): ShaderMaterial {
  const { pictures, species } = look
  return pictures ? skinMaterial(pictures, species.thin, species.height_m, finishOf(species)) : bodyMaterial(look)
}
