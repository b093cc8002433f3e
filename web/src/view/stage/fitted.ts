import { BufferAttribute, BufferGeometry, Mesh, type ShaderMaterial } from 'three'
import type { FitsBuffer, MeshBuffer, PlantsBuffer } from '../../api/buffers'
import { slotsOf } from './blocks'

const TURN = [0, 0, 0, 32767]
const PLAIN = 128

/** The plants of one species that have forms of their own, in one draw call. */
export class FittedBatch {
  readonly mesh: Mesh
  /** By plant: which of them it is; -1 for none. */
  readonly of: Int32Array
  private readonly geometry = new BufferGeometry()
  /** Where the corners of each begin. */
  private readonly begins: number[] = []
  private readonly corners: Uint32Array
  private readonly drawn: BufferAttribute
  private count = 0

  /** `species` is the place in the mix; `forms` are its meshes at the detail that the fits have. */
  constructor(fits: FitsBuffer, species: number, plants: PlantsBuffer, forms: MeshBuffer[], material: ShaderMaterial) {
    this.of = new Int32Array(plants.count).fill(-1)
    const own: { at: number; from: number; plant: number }[] = []
    let [vertices, corners, from] = [0, 0, 0]
    const formOf = (plant: number) => forms[plants.forms[plant] % forms.length]
    for (let k = 0; k < fits.count; k++) {
      const plant = fits.places[k]
      if (fits.species[k] === species && plant < plants.count) {
        this.of[plant] = own.length
        own.push({ at: k, from, plant })
        if (fits.lengths[k] > 0) {
          vertices += fits.lengths[k]
          corners += formOf(plant).indices.length
        }
      }
      from += fits.lengths[k]
    }
    const position = new Float32Array(vertices * 3)
    const normal = new Int8Array(vertices * 4)
    const colour = new Float32Array(vertices * 3)
    const light = new Uint8Array(vertices * 4)
    const place = new Float32Array(vertices * 4)
    const turn = new Int16Array(vertices * 4)
    const tint = new Uint8Array(vertices * 4)
    const tinge = new Uint8Array(vertices * 4)
    const skinned = Boolean(forms[0]?.uvs && forms[0]?.pictures)
    const uv = new Float32Array(skinned ? vertices * 2 : 0)
    const picture = new Float32Array(skinned ? vertices : 0)
    const { of: slots } = slotsOf(plants)
    const ground = new Uint8Array(vertices)
    const tints = new Uint8Array(plants.tints.buffer, plants.tints.byteOffset, plants.count * 2)
    this.corners = new Uint32Array(corners)
    let [at, corner] = [0, 0]
    for (const { at: k, from: first, plant } of own) {
      this.begins.push(corner)
      const n = fits.lengths[k]
      if (n === 0) continue
      const form = formOf(plant)
      position.set(fits.positions.subarray(first * 3, (first + n) * 3), at * 3)
      normal.set(fits.normals.subarray(first * 4, (first + n) * 4), at * 4)
      colour.set(form.colours, at * 3)
      light.set(form.light, at * 4)
      if (skinned) {
        uv.set(form.uvs!, at * 2)
        picture.set(form.pictures!, at)
      }
      const p = plants.positions
      const c = plants.colours
      for (let v = at; v < at + n; v++) {
        place.set([p[plant * 3], p[plant * 3 + 1], p[plant * 3 + 2], 1], v * 4)
        turn.set(TURN, v * 4)
        tint.set([tints[plant * 2], tints[plant * 2 + 1], PLAIN, PLAIN], v * 4)
        tinge.set(c ? [c[plant * 3], c[plant * 3 + 1], c[plant * 3 + 2]] : [PLAIN, PLAIN, PLAIN], v * 4)
      }
      if (slots) ground.fill(slots[plant], at, at + n)
      for (let i = 0; i < form.indices.length; i++) this.corners[corner + i] = form.indices[i] + at
      corner += form.indices.length
      at += n
    }
    this.begins.push(corner)
    this.drawn = new BufferAttribute(new Uint32Array(corners), 1)
    const g = this.geometry
    g.setAttribute('position', new BufferAttribute(position, 3))
    g.setAttribute('normal', new BufferAttribute(normal, 4, true))
    g.setAttribute('aColour', new BufferAttribute(colour, 3))
    g.setAttribute('aLight', new BufferAttribute(light, 4, true))
    g.setAttribute('iPlace', new BufferAttribute(place, 4))
    g.setAttribute('iTurn', new BufferAttribute(turn, 4, true))
    g.setAttribute('iTint', new BufferAttribute(tint, 4, true))
    g.setAttribute('iColour', new BufferAttribute(tinge, 4, true))
    g.setAttribute('iGround', new BufferAttribute(ground, 1))
    if (skinned) {
      g.setAttribute('aUv', new BufferAttribute(uv, 2))
      g.setAttribute('aPicture', new BufferAttribute(picture, 1))
    }
    g.setIndex(this.drawn)
    this.mesh = new Mesh(g, material)
    this.mesh.frustumCulled = false
    // Forms of their own stand as what is beside them presses them.
    this.mesh.onBeforeRender = () => {
      material.uniforms.uBends.value = 0
      material.uniformsNeedUpdate = true
    }
  }

  begin() {
    this.count = 0
  }

  push(k: number) {
    const [from, to] = [this.begins[k], this.begins[k + 1]]
    ;(this.drawn.array as Uint32Array).set(this.corners.subarray(from, to), this.count)
    this.count += to - from
  }

  end() {
    this.geometry.setDrawRange(0, this.count)
    this.mesh.visible = this.count > 0
    if (this.count === 0) return
    this.drawn.clearUpdateRanges()
    this.drawn.addUpdateRange(0, this.count)
    this.drawn.needsUpdate = true
  }

  dispose() {
    this.geometry.dispose()
  }
}
