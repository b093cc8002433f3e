import { BufferAttribute, BufferGeometry, FrontSide, Group, Mesh, ShaderMaterial } from 'three'
import type { MeshBuffer } from '../../api/buffers'
import { LIGHT_GLSL, lightUniforms } from './light'
import { BUILT_GLSL, STONE_GLSL, TEXTURES_GLSL } from './textures/glsl'
import { textureUniforms } from './textures/textures'
import type { Place } from './sway/ways'

/** Built things where they stand, or bodies about their middle. */
export class ObstacleMeshes {
  readonly group = new Group()
  /** Counts up when there are others. */
  version = 0
  private readonly material = new ShaderMaterial({
    uniforms: { ...lightUniforms, ...textureUniforms },
    side: FrontSide,
    vertexShader: /* glsl */ `
      attribute vec3 aColour;
      attribute vec3 aPlace;
      varying vec3 vPlace;
      varying vec3 vColour;
      varying vec3 vNormal;
      varying vec3 vPoint;
      varying vec3 vOwn;
      void main() {
        vColour = aColour;
        vNormal = mat3(modelMatrix) * normal;
        vPlace = aPlace;
        vOwn = position;
        vec4 placed = modelMatrix * vec4(position, 1.0);
        vPoint = placed.xyz;
        gl_Position = projectionMatrix * viewMatrix * placed;
      }`,
    fragmentShader: /* glsl */ `
      ${LIGHT_GLSL}
      ${TEXTURES_GLSL}
      ${STONE_GLSL}
      ${BUILT_GLSL}
      varying vec3 vPlace;
      varying vec3 vColour;
      varying vec3 vNormal;
      varying vec3 vPoint;
      varying vec3 vOwn;
      void main() {
        vec3 n = normalize(vNormal);
        vec3 toPoint = vPoint - cameraPosition;
        float px = pixelOf(vOwn);
        vec3 tone = vec3(1.0);
        vec4 tilt = vec4(0.0);
        // A loop that takes no turn is skipped, where both sides of an if are worked out.
        int built = vPlace.z > -0.5 ? 1 : 0, stone = vPlace.z < -1.5 ? 1 : 0;
        for (int k = 0; k < built; k++) tone = onBuilt(vPlace.xy, int(vPlace.z + 0.5), n, px, length(toPoint), tilt);
        for (int k = 0; k < stone; k++) tone = onStone(vOwn, n, px, length(toPoint), tilt);
        vec3 albedo = min(vColour * tone, vec3(1.0));
        n = normalize(n + tilt.xyz);
        sun_ = sunlit(vPoint, normalize(vNormal));
        gl_FragColor = vec4(toned(aired(lit(albedo, vec3(0.0), n, 0.95), toPoint)), 1.0);
        #include <colorspace_fragment>
      }`,
  })
  private readonly meshes = new Map<number, { mesh: Mesh; from: MeshBuffer }>()

  /** Puts an obstacle's mesh in, or takes it out with null. */
  set(id: number, buffer: MeshBuffer | null) {
    const known = this.meshes.get(id)
    if (known && known.from === buffer) return
    this.version++
    if (known) {
      this.group.remove(known.mesh)
      known.mesh.geometry.dispose()
      this.meshes.delete(id)
    }
    if (!buffer) return
    const geometry = new BufferGeometry()
    geometry.setAttribute('position', new BufferAttribute(buffer.positions, 3))
    geometry.setAttribute('normal', new BufferAttribute(buffer.normals, 3))
    geometry.setAttribute('aColour', new BufferAttribute(buffer.colours, 3))
    geometry.setAttribute('aPlace', new BufferAttribute(buffer.places ?? placeless(buffer), 3))
    geometry.setIndex(new BufferAttribute(buffer.indices, 1))
    geometry.computeBoundingSphere()
    const mesh = new Mesh(geometry, this.material)
    this.group.add(mesh)
    this.meshes.set(id, { mesh, from: buffer })
  }

  /** Moves a body to a place. */
  move(id: number, { at_m, turn }: Place) {
    const mesh = this.meshes.get(id)?.mesh
    mesh?.position.fromArray(at_m)
    mesh?.quaternion.fromArray(turn)
  }

  dispose() {
    this.meshes.forEach((_, id) => this.set(id, null))
    this.material.dispose()
  }
}

/** Of what is built of nothing in particular: stone all through, or of its colours alone. */
function placeless({ dress, vertices }: MeshBuffer): Float32Array {
  return new Float32Array(vertices * 3).fill(dress === 'stone' ? -2 : -1)
}
