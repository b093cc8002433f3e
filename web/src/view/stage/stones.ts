import { FrontSide, ShaderMaterial, type Vector2 } from 'three'
import { LIGHT_GLSL, lightUniforms } from './light'
import { INSTANCE_GLSL, TINT_GLSL, finishOf, keyUniform, meshMaterial, swayUniforms } from './plantMaterials'
import type { SpeciesMeshes } from './species'
import { STONE_GLSL, TEXTURES_GLSL } from './textures/glsl'
import { textureUniforms } from './textures/textures'

/** Instanced stones, lit at every pixel. Their texture lies as the scene does, whichever way a stone is turned: beds stay level. */
function stoneMaterial(height: number, finish: Vector2): ShaderMaterial {
  return new ShaderMaterial({
    uniforms: { ...lightUniforms, ...textureUniforms, ...keyUniform(), ...swayUniforms(height), uFinish: { value: finish } },
    side: FrontSide,
    vertexShader: /* glsl */ `
      attribute vec3 aColour;
      ${INSTANCE_GLSL}
      varying vec3 vColour;
      varying vec3 vNormal;
      varying vec3 vPlace;
      varying vec3 vStone;
      varying vec2 vTint;
      varying vec3 vOwn;
      void main() {
        vec3 p = placed(position);
        vColour = aColour;
        vNormal = faced(normal);
        vPlace = p - cameraPosition;
        vStone = p - carried(iPlace.xyz, rideOf());
        vTint = iTint.xy;
        vOwn = iColour.rgb;
        gl_Position = projectionMatrix * viewMatrix * vec4(p, 1.0);
      }`,
    fragmentShader: /* glsl */ `
      ${LIGHT_GLSL}
      ${TINT_GLSL}
      ${TEXTURES_GLSL}
      ${STONE_GLSL}
      uniform vec2 uFinish;
      varying vec3 vColour;
      varying vec3 vNormal;
      varying vec3 vPlace;
      varying vec3 vStone;
      varying vec2 vTint;
      varying vec3 vOwn;
      void main() {
        vec3 n = normalize(vNormal);
        vec4 tilt;
        vec3 tone = onStone(vStone, n, pixelOf(vStone), length(vPlace), tilt);
        vec3 albedo = min(tinted(vColour, vTint, vOwn) * tone, vec3(1.0));
        sun_ = sunlit(vPlace + cameraPosition, n);
        n = normalize(n + tilt.xyz);
        gl_FragColor = vec4(toned(aired(finished(lit(albedo, vec3(0.0), n, 0.95), albedo, n, vPlace, vec2(max(uFinish.x, tilt.w), uFinish.y)), vPlace)), 1.0);
        #include <colorspace_fragment>
      }`,
  })
}

/** The material for the meshes of a species without pictures. */
export function bodyMaterial({ meshes, species }: SpeciesMeshes): ShaderMaterial {
  const { thin, height_m } = species
  return meshes[0]?.[0]?.dress === 'stone' ? stoneMaterial(height_m, finishOf(species)) : meshMaterial(thin, height_m, finishOf(species))
}
