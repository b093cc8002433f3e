import {
  BufferAttribute, BufferGeometry, DynamicDrawUsage, InstancedBufferAttribute, InstancedBufferGeometry, Mesh, Points,
  type Material,
} from 'three'
import type { MeshBuffer, PlantsBuffer } from '../../api/buffers'

/** As it is: neither stretched nor of another colour, see `encode_plants`. */
const PLAIN = 128

/** What a plant takes along: place and size, turn, tint with height and depth, colour. */
class Columns {
  place = new Float32Array(0)
  turn = new Int16Array(0)
  tint = new Uint8Array(0)
  colour = new Uint8Array(0)
  count = 0

  /** Makes room; what was there is forgotten. */
  reset(capacity: number): boolean {
    this.count = 0
    if (this.place.length >= capacity * 4) return false
    const room = Math.ceil(capacity * 1.25) + 64
    this.place = new Float32Array(room * 4)
    this.turn = new Int16Array(room * 4)
    this.tint = new Uint8Array(room * 4)
    this.colour = new Uint8Array(room * 4)
    return true
  }

  push(plants: PlantsBuffer, tints: Uint8Array, i: number) {
    const k = this.count++
    const { positions: p, rotations: q } = plants
    this.place[k * 4] = p[i * 3]
    this.place[k * 4 + 1] = p[i * 3 + 1]
    this.place[k * 4 + 2] = p[i * 3 + 2]
    this.place[k * 4 + 3] = plants.sizes[i]
    this.turn[k * 4] = q[i * 4]
    this.turn[k * 4 + 1] = q[i * 4 + 1]
    this.turn[k * 4 + 2] = q[i * 4 + 2]
    this.turn[k * 4 + 3] = q[i * 4 + 3]
    const { stretches: s, colours: c } = plants
    this.tint[k * 4] = tints[i * 2]
    this.tint[k * 4 + 1] = tints[i * 2 + 1]
    this.tint[k * 4 + 2] = s ? s[i * 2] : PLAIN
    this.tint[k * 4 + 3] = s ? s[i * 2 + 1] : PLAIN
    this.colour[k * 4] = c ? c[i * 3] : PLAIN
    this.colour[k * 4 + 1] = c ? c[i * 3 + 1] : PLAIN
    this.colour[k * 4 + 2] = c ? c[i * 3 + 2] : PLAIN
  }
}

/** One form at one detail in one draw call. */
export class FormBatch {
  readonly mesh: Mesh
  private readonly columns = new Columns()
  private readonly geometry = new InstancedBufferGeometry()

  constructor(form: MeshBuffer, material: Material) {
    this.geometry.setAttribute('position', new BufferAttribute(form.positions, 3))
    this.geometry.setAttribute('normal', new BufferAttribute(form.normals, 3))
    this.geometry.setAttribute('aColour', new BufferAttribute(form.colours, 3))
    this.geometry.setAttribute('aThrough', new BufferAttribute(form.through, 1))
    if (form.uvs && form.pictures) {
      this.geometry.setAttribute('aUv', new BufferAttribute(form.uvs, 2))
      this.geometry.setAttribute('aPicture', new BufferAttribute(form.pictures, 1))
    }
    this.geometry.setIndex(new BufferAttribute(form.indices, 1))
    this.geometry.instanceCount = 0
    this.mesh = new Mesh(this.geometry, material)
    this.mesh.frustumCulled = false
  }

  begin(capacity: number) {
    if (!this.columns.reset(capacity)) return
    const { place, turn, tint, colour } = this.columns
    const set = (name: string, attribute: InstancedBufferAttribute) =>
      this.geometry.setAttribute(name, attribute.setUsage(DynamicDrawUsage))
    this.geometry.dispose()
    set('iPlace', new InstancedBufferAttribute(place, 4))
    set('iTurn', new InstancedBufferAttribute(turn, 4, true))
    set('iTint', new InstancedBufferAttribute(tint, 4, true))
    set('iColour', new InstancedBufferAttribute(colour, 4, true))
  }

  push(plants: PlantsBuffer, tints: Uint8Array, i: number) {
    this.columns.push(plants, tints, i)
  }

  end() {
    const count = this.columns.count
    this.geometry.instanceCount = count
    this.mesh.visible = count > 0
    refresh(this.geometry, count)
  }

  dispose() {
    this.geometry.dispose()
  }
}

/** All far plants of a layer in one draw call. */
export class DotBatch {
  readonly points: Points
  private readonly columns = new Columns()
  private readonly geometry = new BufferGeometry()

  constructor(material: Material) {
    this.points = new Points(this.geometry, material)
    this.points.frustumCulled = false
  }

  begin(capacity: number) {
    if (!this.columns.reset(capacity)) return
    this.geometry.dispose()
    const { place, tint, colour } = this.columns
    this.geometry.setAttribute('iPlace', new BufferAttribute(place, 4).setUsage(DynamicDrawUsage))
    this.geometry.setAttribute('iTint', new BufferAttribute(tint, 4, true).setUsage(DynamicDrawUsage))
    this.geometry.setAttribute('iColour', new BufferAttribute(colour, 4, true).setUsage(DynamicDrawUsage))
  }

  push(plants: PlantsBuffer, tints: Uint8Array, i: number) {
    this.columns.push(plants, tints, i)
  }

  end() {
    const count = this.columns.count
    this.geometry.setDrawRange(0, count)
    this.points.visible = count > 0
    refresh(this.geometry, count)
  }

  dispose() {
    this.geometry.dispose()
  }
}

/** Sends only the part of each array that is in use. */
function refresh(geometry: BufferGeometry, count: number) {
  for (const name of ['iPlace', 'iTurn', 'iTint', 'iColour']) {
    const attribute = geometry.getAttribute(name) as BufferAttribute | undefined
    if (!attribute || count === 0) continue
    attribute.clearUpdateRanges()
    attribute.addUpdateRange(0, count * attribute.itemSize)
    attribute.needsUpdate = true
  }
}
