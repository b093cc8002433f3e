import { DataTexture, DoubleSide, LinearFilter, RGBAFormat, ShaderMaterial, UnsignedByteType, type Vector2 } from 'three'
import type { CardBuffer, MeshBuffer } from '../../api/buffers'
import { LIGHT_GLSL, lightUniforms } from './light'
import { INSTANCE_GLSL, TINT_GLSL, keyUniform, swayUniforms } from './plantMaterials'

/** Two upright sheets crossed over the base point, as a mesh; where each looks up its picture is in its colours. */
export function crossedSheets(card: CardBuffer): MeshBuffer {
  const { half_m: h, low_m: low, high_m: high } = card
  const positions: number[] = []
  const normals: number[] = []
  const colours: number[] = []
  const indices: number[] = []
  // The picture from +Z has +X on its right, the one from +X has -Z there.
  for (const [k, [x, z]] of [[1, 0], [0, -1]].entries()) {
    const first = positions.length / 3
    for (const [u, v] of [[0, 1], [1, 1], [1, 0], [0, 0]]) {
      const across = (u * 2 - 1) * h
      positions.push(across * x, v ? low : high, across * z)
      normals.push(0, 1, 0)
      // The two pictures lie over one another in one texture.
      colours.push(u, (k + v) / 2, 0)
    }
    indices.push(first, first + 1, first + 2, first, first + 2, first + 3)
  }
  return {
    vertices: 8, triangles: 4, positions: new Float32Array(positions), normals: new Float32Array(normals),
    colours: new Float32Array(colours), light: new Uint8Array(32).map((_, i) => (i % 4 === 1 ? 255 : 0)), indices: new Uint32Array(indices),
  }
}

function texture(bytes: Uint8Array, card: CardBuffer): DataTexture {
  const t = new DataTexture(bytes, card.width_px, card.height_px * 2, RGBAFormat, UnsignedByteType)
  t.magFilter = t.minFilter = LinearFilter
  t.needsUpdate = true
  return t
}

/** Lit as the plant itself: its pictures hold colour, cover and normals. */
export function cardMaterial(card: CardBuffer, thin: boolean, height: number, finish: Vector2): ShaderMaterial {
  return new ShaderMaterial({
    uniforms: {
      ...keyUniform(),
      ...lightUniforms,
      ...swayUniforms(height),
      uThin: { value: thin ? 1 : 0 },
      uHeight: { value: height },
      uHalf: { value: thin ? 0 : Math.max(card.half_m, height / 2) },
      uFinish: { value: finish },
      uColours: { value: texture(card.colours, card) },
      uNormals: { value: texture(card.normals, card) },
    },
    side: DoubleSide,
    vertexShader: /* glsl */ `
      attribute vec3 aColour;
      ${INSTANCE_GLSL}
      varying vec2 vAt;
      varying vec4 vTurn;
      varying vec2 vRide;
      varying vec2 vTint;
      varying vec3 vOwn;
      varying vec3 vStretch;
      varying vec3 vPlace;
      varying float vUp;
      varying float vClear;
      uniform float uHalf;
      void main() {
        vClear = uHalf * iPlace.w;
        vec3 p = placed(position);
        int ride = rideOf();
        vRide = vec2(1.0, 0.0);
#ifdef MOVES
        if (ride >= 0) vRide = uRideTurn[ride].xy;
#endif
        vAt = aColour.xy;
        vTurn = iTurn;
        vTint = iTint.xy;
        vOwn = iColour.rgb;
        vStretch = stretched();
        vPlace = p - cameraPosition;
        vUp = position.y;
        gl_Position = projectionMatrix * viewMatrix * vec4(p, 1.0);
      }`,
    fragmentShader: /* glsl */ `
      ${LIGHT_GLSL}
      ${TINT_GLSL}
      uniform sampler2D uColours;
      uniform sampler2D uNormals;
      uniform float uThin;
      uniform float uHeight;
      uniform vec2 uFinish;
      varying vec2 vAt;
      varying vec4 vTurn;
      varying vec2 vRide;
      varying vec2 vTint;
      varying vec3 vOwn;
      varying vec3 vStretch;
      varying vec3 vPlace;
      varying float vUp;
      varying float vClear;
      void main() {
        vec4 seen = texture2D(uColours, vAt);
        if (seen.a < 0.5) discard;
        vec4 facing = texture2D(uNormals, vAt);
        vec3 n = facing.xyz * 2.0 - 1.0;
        vec3 u = vTurn.xyz;
        n /= vStretch;
        n = normalize(n + 2.0 * cross(u, cross(u, n) + vTurn.w * n));
        n = vec3(n.x * vRide.x - n.z * vRide.y, n.y, n.x * vRide.y + n.z * vRide.x);
        vec3 albedo = tinted(seen.rgb * seen.rgb, vTint, vOwn);
        vec3 through = uThin * albedo * vec3(0.62, 0.66, 0.30);
        vec3 open = uThin > 0.5 ? skyAmong(facing.a * amongOthers(vUp / uHeight), albedo) : vec3(0.95);
        // A sheet through the middle of a stone lies in its shade: the light is that before it.
        sun_ = sunlit(vPlace + cameraPosition + uSun * vClear, uSun);
        gl_FragColor = vec4(toned(aired(finished(litThrough(albedo, through, n, vec3(1.0), open), albedo, n, vPlace, uFinish), vPlace)), 1.0);
        #include <colorspace_fragment>
      }`,
  })
}

/** The colours and the cover that a card is drawn with. */
export function pictureOf(material: ShaderMaterial): DataTexture {
  return material.uniforms.uColours.value as DataTexture
}

/** Frees what a card's material holds. */
export function dropCard(material: ShaderMaterial) {
  ;(material.uniforms.uColours.value as DataTexture).dispose()
  ;(material.uniforms.uNormals.value as DataTexture).dispose()
  material.dispose()
}
