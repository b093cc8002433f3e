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
      attribute vec4 aLight;
      attribute vec2 aUv;
      attribute float aPicture;
      ${INSTANCE_GLSL}
      varying vec3 vColour;
      varying vec3 vNormal;
      varying vec3 vPlace;
      varying vec2 vTint;
      varying vec3 vOwn;
      varying vec4 vAt;
      varying vec2 vOpen;
      void main() {
        vec3 p = placed(position);
        vColour = aColour;
        vNormal = faced(normal);
        vPlace = p - cameraPosition;
        vTint = iTint.xy;
        vOwn = iColour.rgb;
        vAt = vec4(aUv, aPicture, aLight.x);
        vOpen = vec2(aLight.y, position.y);
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
        vec3 open = uThin > 0.5 ? skyAmong(vOpen.x * amongOthers(vOpen.y / uHeight), albedo) : vec3(0.95);
        sun_ = sunlit(vPlace + cameraPosition, uSun);
        gl_FragColor = vec4(toned(aired(finished(litThrough(albedo, through, n, vec3(1.0), open), albedo, n, vPlace, uFinish), vPlace)), 1.0);
        #include <colorspace_fragment>
      }`,
  })
}

/** The material for the meshes of a species. */
export function materialOf(look: SpeciesMeshes): ShaderMaterial {
  const { pictures, species } = look
  return pictures ? skinMaterial(pictures, species.thin, species.height_m, finishOf(species)) : bodyMaterial(look)
}
