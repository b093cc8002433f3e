import {
  BufferAttribute, BufferGeometry, DynamicDrawUsage, InstancedBufferAttribute, InstancedBufferGeometry, InterleavedBuffer, InterleavedBufferAttribute, Mesh, Points,
  type Material, type ShaderMaterial,
} from 'three'
import type { Limbs, MeshBuffer } from '../../api/buffers'
import type { Blocks } from './blocks'
import { SwayPoints } from './sway/pass'

/** What a plant takes along: place and size, turn, tint with height and depth, colour. */
class Columns {
  place = new Float32Array(0)
  turn = new Int16Array(0)
  tint = new Uint8Array(0)
  colour = new Uint8Array(0)
  ground = new Uint8Array(0)
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
    this.ground = new Uint8Array(room)
    return true
  }

  /** The so-manieth plant of some blocks. */
  push({ place, tint, colour, ground }: Blocks, from: number) {
    this.ground[this.count] = ground ? ground[from] : 0
    const to = this.count++ * 4
    const at = from * 4
    for (let c = 0; c < 4; c++) {
      this.place[to + c] = place[at + c]
      this.tint[to + c] = tint[at + c]
      this.colour[to + c] = colour[at + c]
    }
  }

  /** Turns the one that was put in last; `plant` is its place among all. */
  turnLast(rotations: Int16Array, plant: number) {
    const to = (this.count - 1) * 4
    for (let c = 0; c < 4; c++) this.turn[to + c] = rotations[plant * 4 + c]
  }
}

/** Gives a geometry of points the columns it draws from. */
export function columnAttributes(geometry: BufferGeometry, { place, tint, colour, ground }: { place: Float32Array<ArrayBuffer>; tint: Uint8Array<ArrayBuffer>; colour: Uint8Array<ArrayBuffer>; ground: Uint8Array<ArrayBuffer> | null }) {
  geometry.setAttribute('iPlace', new BufferAttribute(place, 4).setUsage(DynamicDrawUsage))
  geometry.setAttribute('iTint', new BufferAttribute(tint, 4, true).setUsage(DynamicDrawUsage))
  geometry.setAttribute('iColour', new BufferAttribute(colour, 4, true).setUsage(DynamicDrawUsage))
  if (ground) geometry.setAttribute('iGround', new BufferAttribute(ground, 1).setUsage(DynamicDrawUsage))
}

/** How a mesh bends: not at all, limb by limb, or as a whole; see `INSTANCE_GLSL`. */
const [STIFF, LIMBS, WHOLE] = [0, 1, 2]

/** Spreads limbs out over the vertices that hang on them. */
function ofVertices({ share, limb, axes }: Limbs) {
  const foot = new Float32Array(share.length * 4)
  const set = new Float32Array(share.length * 3)
  const curve = new Float32Array(share.length * 3)
  for (let v = 0; v < share.length; v++) {
    const at = limb[v] * 9
    for (let c = 0; c < 3; c++) {
      foot[v * 4 + c] = axes[at + c]
      set[v * 3 + c] = axes[at + 3 + c]
      curve[v * 3 + c] = axes[at + 6 + c]
    }
    foot[v * 4 + 3] = share[v]
  }
  return { foot, set, curve }
}

/** One form at one detail in one draw call. */
export class FormBatch {
  readonly mesh: Mesh
  /** Where the wind is asked for its plants, while they sway. */
  sway: SwayPoints | null = null
  /** The same, kept while nothing moves. */
  private points: SwayPoints | null = null
  private readonly columns = new Columns()
  private readonly geometry = new InstancedBufferGeometry()
  private readonly form: MeshBuffer

  constructor(form: MeshBuffer, material: ShaderMaterial) {
    this.form = form
    this.geometry.setAttribute('position', new BufferAttribute(form.positions, 3))
    this.geometry.setAttribute('normal', new BufferAttribute(form.normals, 3))
    this.geometry.setAttribute('aColour', new BufferAttribute(form.colours, 3))
    this.geometry.setAttribute('aLight', new BufferAttribute(form.light, 4, true))
    if (form.uvs && form.pictures) {
      this.geometry.setAttribute('aUv', new BufferAttribute(form.uvs, 2))
      this.geometry.setAttribute('aPicture', new BufferAttribute(form.pictures, 1))
    }
    this.geometry.setIndex(new BufferAttribute(form.indices, 1))
    this.geometry.instanceCount = 0
    this.mesh = new Mesh(this.geometry, material)
    this.mesh.frustumCulled = false
    this.mesh.onBeforeRender = () => {
      const { uBends, uSlot } = material.uniforms
      uBends.value = this.sway ? (form.limbs ? LIMBS : WHOLE) : STIFF
      uSlot.value = this.sway?.slot ?? 0
      material.uniformsNeedUpdate = true
    }
  }

  /** Begins to sway, or stands still again when null. */
  bend(material: ShaderMaterial | null) {
    if (Boolean(material) === Boolean(this.sway)) return
    if (material) this.points ??= new SwayPoints(material)
    this.sway = material && this.points
    const { limbs } = this.form
    if (limbs && this.sway && !this.geometry.getAttribute('aFoot')) {
      const { foot, set, curve } = ofVertices(limbs)
      this.geometry.dispose()
      this.geometry.setAttribute('aFoot', new BufferAttribute(foot, 4))
      this.geometry.setAttribute('aSet', new BufferAttribute(set, 3))
      this.geometry.setAttribute('aCurve', new BufferAttribute(curve, 3))
    }
    const { flaps } = this.form
    if (flaps && this.sway && !this.geometry.getAttribute('aFlap')) {
      const both = new InterleavedBuffer(flaps, 8)
      this.geometry.setAttribute('aFlap', new InterleavedBufferAttribute(both, 4, 0, true))
      this.geometry.setAttribute('aOff', new InterleavedBufferAttribute(both, 4, 4, true))
    }
    this.shareColumns()
  }

  private shareColumns() {
    const [place, tint, ground] = ['iPlace', 'iTint', 'iGround'].map((name) => this.geometry.getAttribute(name) as InstancedBufferAttribute | undefined)
    if (!this.sway || !place || !tint || !ground) return
    this.sway.share(place, tint, ground)
    this.sway.count = this.columns.count
  }

  begin(capacity: number) {
    if (!this.columns.reset(capacity)) return
    const { place, turn, tint, colour, ground } = this.columns
    const set = (name: string, attribute: InstancedBufferAttribute) =>
      this.geometry.setAttribute(name, attribute.setUsage(DynamicDrawUsage))
    this.geometry.dispose()
    set('iPlace', new InstancedBufferAttribute(place, 4))
    set('iTurn', new InstancedBufferAttribute(turn, 4, true))
    set('iTint', new InstancedBufferAttribute(tint, 4, true))
    set('iColour', new InstancedBufferAttribute(colour, 4, true))
    set('iGround', new InstancedBufferAttribute(ground, 1))
    this.shareColumns()
  }

  /** Draws the so-manieth plant of some blocks. */
  push(blocks: Blocks, k: number, rotations: Int16Array) {
    this.columns.push(blocks, k)
    this.columns.turnLast(rotations, blocks.order[k])
  }

  end() {
    const count = this.columns.count
    this.geometry.instanceCount = count
    this.mesh.visible = count > 0
    if (this.sway) this.sway.count = count
    refresh(this.geometry, count)
  }

  dispose() {
    this.geometry.dispose()
    this.points?.points.geometry.dispose()
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
    columnAttributes(this.geometry, this.columns)
  }

  push(blocks: Blocks, k: number) {
    this.columns.push(blocks, k)
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
export function refresh(geometry: BufferGeometry, count: number) {
  for (const name of ['iPlace', 'iTurn', 'iTint', 'iColour', 'iGround']) {
    const attribute = geometry.getAttribute(name) as BufferAttribute | undefined
    if (!attribute || count === 0) continue
    attribute.clearUpdateRanges()
    attribute.addUpdateRange(0, count * attribute.itemSize)
    attribute.needsUpdate = true
  }
}
