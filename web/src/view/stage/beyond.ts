import { BufferAttribute, BufferGeometry, Mesh, Vector2, type ShaderMaterial } from 'three'
import type { MeshBuffer } from '../../api/buffers'
import { grainTexture } from './grain'
import { groundMaterial, restUniforms } from './groundMaterial'
import { lightUniforms } from './light'

/** The land from its edges to the horizon: only seen, never pointed at. */
export class Beyond {
  readonly mesh: Mesh<BufferGeometry, ShaderMaterial>
  private from: MeshBuffer | null = null

  constructor() {
    const material = groundMaterial(
      { ...restUniforms(), ...lightUniforms, uContour: { value: 0 }, uGrain: { value: grainTexture() }, uOverlay: { value: 0 }, uOverlayMap: { value: null }, uRamp: { value: null }, uSize: { value: new Vector2(1, 1) } },
      false,
    )
    this.mesh = new Mesh(new BufferGeometry(), material)
    // It lies all around.
    this.mesh.frustumCulled = false
    this.mesh.visible = false
  }

  /** Puts it in, or takes it out with null; tells whether anything changed. */
  set(buffer: MeshBuffer | null): boolean {
    if (buffer === this.from) return false
    this.from = buffer
    this.mesh.geometry.dispose()
    this.mesh.geometry = new BufferGeometry()
    if (!buffer) return true
    const g = this.mesh.geometry
    g.setAttribute('position', new BufferAttribute(buffer.positions, 3))
    g.setAttribute('normal', new BufferAttribute(buffer.normals, 3))
    // Grounds keep the roots of their colours.
    g.setAttribute('aColour', new BufferAttribute(buffer.colours.map(Math.sqrt), 3))
    g.setAttribute('aEarths', new BufferAttribute(buffer.earths ?? new Uint8Array(buffer.vertices * 4), 4, true))
    g.setAttribute('aLaid', new BufferAttribute(new Float32Array(buffer.vertices), 1))
    g.setIndex(new BufferAttribute(buffer.indices, 1))
    return true
  }

  /** Whether it is seen: not in a plan, and not where there is no land. */
  show(shown: boolean) {
    this.mesh.visible = shown && this.from !== null
  }

  dispose() {
    this.mesh.geometry.dispose()
    this.mesh.material.dispose()
    ;(this.mesh.material.uniforms.uGrain.value as { dispose(): void }).dispose()
  }
}
