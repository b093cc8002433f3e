import { Group, type Camera } from 'three'
import type { MeshBuffer, NapBuffer } from '../../../api/buffers'
import { FormBatch } from '../batch'
import { PLAIN, Sight, inBlocks, type Blocks } from '../blocks'
import { napMaterial } from '../plantMaterials'
import { detailAt, sizeAt } from './distances'

const [KINDS, FORMS, DETAILS] = [5, 4, 3]
/** As far as a tuft reaches about its place, metres. */
const REACHES_M = 0.3

const NONE = { count: 0, positions: new Float32Array(0), sizes: new Float32Array(0), tints: new Uint16Array(0) }

/** The fine cover of the ground about the eye. */
export class Nap {
  readonly group = new Group()
  /** Tufts in the picture. */
  drawn = 0
  /** How near it is drawn in the last picture, against where all of it is; 0 where none is. */
  nearer = 0
  private readonly materials = Array.from({ length: KINDS }, (_, kind) => napMaterial(kind))
  /** By kind, form and detail, the finest first. */
  private batches: FormBatch[] = []
  private forms: MeshBuffer[] = []
  private all: Blocks = inBlocks(NONE)
  private rotations = new Int16Array(0)
  private sizes = new Float32Array(0)
  /** The first batch of each: that of its kind and form. */
  private first = new Uint16Array(0)
  /** Those in the picture, and the batch of each. */
  private chosen = new Uint32Array(0)
  private batchOf = new Uint16Array(0)
  /** Triangles there would be if all of it were drawn, in the last picture. */
  private whole = 0

  set(forms: MeshBuffer[], tiles: NapBuffer[]) {
    if (forms !== this.forms) {
      this.dropBatches()
      this.forms = forms
      this.batches = forms.map((form, i) => new FormBatch(form, this.materials[Math.floor(i / (FORMS * DETAILS))]))
      if (this.batches.length > 0) this.group.add(...this.batches.map((b) => b.mesh))
    }
    const count = tiles.reduce((sum, t) => sum + t.count, 0)
    const place = new Float32Array(count * 4)
    const tint = new Uint8Array(count * 4).fill(PLAIN)
    const colour = new Uint8Array(count * 4)
    this.sizes = new Float32Array(count)
    this.rotations = new Int16Array(count * 4)
    this.first = new Uint16Array(count)
    this.chosen = new Uint32Array(count)
    this.batchOf = new Uint16Array(count)
    const order = Uint32Array.from({ length: count }, (_, i) => i)
    let at = 0
    for (const t of tiles) {
      this.rotations.set(t.rotations, at * 4)
      colour.set(t.colours, at * 4)
      this.sizes.set(t.sizes, at)
      for (let i = 0; i < t.count; i++, at++) {
        for (let c = 0; c < 3; c++) place[at * 4 + c] = t.positions[i * 3 + c]
        tint[at * 4] = t.what[i * 4 + 2]
        tint[at * 4 + 1] = t.what[i * 4 + 3]
        this.first[at] = (t.what[i * 4] * FORMS + t.what[i * 4 + 1]) * DETAILS
      }
    }
    this.all = { ...inBlocks(NONE), plants: count, order, place, tint, colour }
    this.drawn = 0
    this.whole = 0
  }

  /** Lets it stand on the ground as the view has it, which may be coarser than it is. */
  lie(heightAt: (x: number, z: number) => number | null) {
    const { place, plants } = this.all
    for (let k = 0; k < plants * 4; k += 4) place[k + 1] = heightAt(place[k], place[k + 2]) ?? place[k + 1]
  }

  /**
   * Decides what of it the next picture holds: all, or about so many triangles of it by drawing its surroundings closer about the eye; tells how many they are.
   * `light` leaves out the fine details.
   */
  choose(camera: Camera, most: number, light: boolean): number {
    const { all, sizes, chosen, batchOf, first, forms } = this
    this.drawn = 0
    this.nearer = 0
    if (!this.group.visible || sizes.length === 0) return 0
    const sight = new Sight(camera)
    const [ex, ey, ez] = sight.eye
    const nearer = this.whole > most ? Math.sqrt(most / this.whole) : 1
    this.nearer = nearer
    let triangles = 0
    for (let k = 0; k < sizes.length; k++) {
      const [x, y, z] = [all.place[k * 4], all.place[k * 4 + 1], all.place[k * 4 + 2]]
      const away = Math.sqrt((x - ex) ** 2 + (y - ey) ** 2 + (z - ez) ** 2) / nearer
      const size = sizeAt(all.colour[k * 4 + 3] / 255, away)
      if (size <= 0 || !sight.sees(x, y, z, REACHES_M)) continue
      all.place[k * 4 + 3] = size * sizes[k]
      const batch = first[k] + (light ? DETAILS - 1 : detailAt(away))
      chosen[this.drawn] = k
      batchOf[this.drawn++] = batch
      triangles += forms[batch].triangles
    }
    this.whole = triangles / (nearer * nearer)
    return triangles
  }

  /** Puts it into the picture, or a part of it. */
  fill(from = 0, to = this.drawn) {
    const { all, batches, batchOf, chosen, rotations } = this
    const counts = new Uint32Array(batches.length)
    for (let i = from; i < to; i++) counts[batchOf[i]]++
    for (const [n, b] of batches.entries()) b.begin(counts[n])
    for (let i = from; i < to; i++) batches[batchOf[i]].push(all, chosen[i], rotations)
    for (const b of batches) b.end()
  }

  /** Cuts it into parts of about so many triangles. */
  parts(most: number): [number, number][] {
    const out: [number, number][] = []
    let [from, cost] = [0, 0]
    for (let i = 0; i < this.drawn; i++) {
      cost += this.forms[this.batchOf[i]].triangles
      if (cost < most && i + 1 < this.drawn) continue
      out.push([from, i + 1])
      from = i + 1
      cost = 0
    }
    return out
  }

  private dropBatches() {
    for (const b of this.batches) {
      this.group.remove(b.mesh)
      b.dispose()
    }
    this.batches = []
  }

  dispose() {
    this.dropBatches()
    for (const m of this.materials) m.dispose()
  }
}
