import { BufferAttribute, BufferGeometry, FrontSide, Group, Mesh, ShaderMaterial } from 'three'
import type { MeshBuffer } from '../../api/buffers'
import { LIGHT_GLSL, lightUniforms } from './light'
import type { Place } from './sway/ways'

/** Built things where they stand, or bodies about their middle. */
export class ObstacleMeshes {
  readonly group = new Group()
  /** Counts up when there are others. */
  version = 0
  private readonly material = new ShaderMaterial({
    uniforms: { ...lightUniforms },
    side: FrontSide,
    vertexShader: /* glsl */ `
      attribute vec3 aColour;
      varying vec3 vColour;
      varying vec3 vNormal;
      varying vec3 vPoint;
      varying vec3 vOwn;
      void main() {
        vColour = aColour;
        vNormal = mat3(modelMatrix) * normal;
        vOwn = position;
        vec4 placed = modelMatrix * vec4(position, 1.0);
        vPoint = placed.xyz;
        gl_Position = projectionMatrix * viewMatrix * placed;
      }`,
    fragmentShader: /* glsl */ `
      ${LIGHT_GLSL}
      varying vec3 vColour;
      varying vec3 vNormal;
      varying vec3 vPoint;
      varying vec3 vOwn;
      void main() {
        // A little uneven, as lime and stone are.
        vec3 cell = floor(vOwn * 9.0);
        float rough = fract(sin(dot(cell, vec3(12.9898, 78.233, 37.719))) * 43758.5453);
        vec3 albedo = vColour * (0.96 + 0.08 * rough);
        sun_ = sunlit(vPoint, normalize(vNormal));
        gl_FragColor = vec4(toned(aired(lit(albedo, vec3(0.0), normalize(vNormal), 0.95), vPoint - cameraPosition)), 1.0);
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
