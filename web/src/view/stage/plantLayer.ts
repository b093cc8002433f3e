import { Group, type Color, type ShaderMaterial, type Vector4 } from 'three'
import type { Schemas } from '../../api/client'
import type { FitsBuffer, PlantsBuffer } from '../../api/buffers'
import { DotBatch, FormBatch } from './batch'
import { inBlocks, slotsOf, type Blocks } from './blocks'
import { DotsAsTheyLie } from './dotsAsTheyLie'
import type { ShadowMap } from './shadows/maps'
import { PlantCasters } from './shadows/casters'
import { FittedBatch } from './fitted'
import { cardMaterial, crossedSheets, dropCard, pictureOf } from './cards'
import { dotMaterial, finishOf, letMove } from './plantMaterials'
import { materialOf } from './skins'
import { bodyMaterial } from './stones'
import type { SpeciesMeshes } from './species'
import { swayMaterial, type SwayPoints } from './sway/pass'
import type { RideNow } from './sway/ways'
import { ridesNow } from './sway/wind'

/** Detail 0 to 4 is a mesh (see `DETAILS`), the last two of these a hull and a box, 5 a card, 6 a dot; anything else is not in the picture. */
export const HULL = 3
export const CARD = 5
export const DOT = 6
export const UNSEEN = 255
/** The coarsest mesh in whose stead a plant's own form is drawn, where it has one. */
const FITTED_TO = 1

const NONE = { count: 0, positions: new Float32Array(0), sizes: new Float32Array(0), tints: new Uint16Array(0) }

/** How a species answers the wind where it stands. */
export interface Answer {
  sway: Schemas['Sway']
  push: Schemas['Push']
  tall_m: number
  wide_m: number
}

/** One layer in the view. */
export class PlantLayer {
  readonly group = new Group()
  readonly look: SpeciesMeshes
  plants: PlantsBuffer | null = null
  /** Apparent size class of each plant of the blocks that are looked at one by one, in their order; see `detail.ts`. */
  bins = new Uint8Array(0)
  blocks: Blocks = inBlocks(NONE)
  /** The blocks in sight: those looked at plant by plant, and those drawn as dots as they lie. */
  readonly near: number[] = []
  readonly far: number[] = []
  /** How all its plants are drawn, where that is not left to their size: a detail. */
  forced: number | null = null
  /** Share of the plants that is drawn. */
  share = 1
  /** The grounds that carry its plants, by the slots that these are told apart by. */
  private carriers: number[] = []
  private rides: number[] = []
  private sways = false
  /** Whether a moving ground carries some of it. */
  private carried = false
  /** By detail, then by form; cards are the last. */
  private readonly batches: FormBatch[][]
  private readonly cardMaterials: ShaderMaterial[]
  private readonly dots: DotBatch
  private readonly farDots: DotsAsTheyLie
  private fitted: FittedBatch | null = null
  private fits: FitsBuffer | null = null
  readonly dotMaterial: ShaderMaterial
  readonly casters: PlantCasters
  private readonly meshMaterial: ShaderMaterial
  private readonly skinMaterial: ShaderMaterial
  private swayMaterial: ShaderMaterial | null = null

  constructor(look: SpeciesMeshes) {
    this.look = look
    const { thin, height_m } = look.species
    const finish = finishOf(look.species)
    this.meshMaterial = bodyMaterial(look)
    this.skinMaterial = materialOf(look)
    this.dotMaterial = dotMaterial(look, finish)
    this.cardMaterials = look.cards.map((c) => cardMaterial(c, thin, height_m, finish))
    this.batches = [
      ...look.meshes.map((forms) => forms.map((form) => new FormBatch(form, form.uvs ? this.skinMaterial : this.meshMaterial))),
      look.cards.map((c, i) => new FormBatch(crossedSheets(c), this.cardMaterials[i])),
    ]
    this.casters = new PlantCasters(look, this.cardMaterials.map(pictureOf))
    this.dots = new DotBatch(this.dotMaterial)
    this.farDots = new DotsAsTheyLie(this.dotMaterial)
    this.group.add(this.dots.points, this.farDots.points, ...this.batches.flat().map((b) => b.mesh))
  }

  set(plants: PlantsBuffer) {
    this.plants = plants
    if (this.bins.length < plants.count) this.bins = new Uint8Array(Math.ceil(plants.count * 1.05))
    this.blocks = inBlocks(plants, this.blocks)
    this.carriers = slotsOf(plants).grounds
    this.ride(this.rides)
    // Other plants: what was fitted belongs to the last ones.
    this.fit(null, 0)
  }

  /** Gives plants forms of their own; null for none. `species` is the place in the mix. */
  fit(fits: FitsBuffer | null, species: number) {
    const fresh = fits && this.plants?.key === fits.plants ? fits : null
    if (fresh === this.fits) return
    this.fits = fresh
    if (this.fitted) {
      this.group.remove(this.fitted.mesh)
      this.fitted.dispose()
      this.fitted = null
    }
    if (!fresh || !this.plants) return
    const forms = this.look.meshes[fresh.detail]
    this.fitted = new FittedBatch(fresh, species, this.plants, forms, forms[0].uvs ? this.skinMaterial : this.meshMaterial)
    this.group.add(this.fitted.mesh)
  }

  /** Whether there is anything that casts. */
  get casts(): boolean {
    return this.plants !== null && this.group.visible && this.look.cards.length > 0
  }

  /** Calls back once what casts in a map is ready, bent by the wind where it `bends`. */
  cast(map: ShadowMap, bends: boolean, mostTriangles: number, draw: () => void) {
    this.casters.bend(bends && this.sways ? this.swayMaterial : null)
    this.casters.cast(map, this.blocks, this.plants!, this.farDots, mostTriangles, draw)
  }

  get casterSwaying(): SwayPoints[] {
    return this.group.visible ? this.casters.swaying : []
  }

  /** Sorts every plant near enough into its batch; `detailOf` gives the detail of a size class. The others are dots as they lie. */
  fill(detailOf: Uint8Array, counts: number[]) {
    const { starts } = this.blocks
    this.fillPart(detailOf, counts, this.near.map((block) => [starts[block], starts[block + 1]]), this.far)
  }

  /** The same for some runs of its plants, in the order of the blocks, and for some blocks of the far ones. */
  fillPart(detailOf: Uint8Array, counts: number[], near: [number, number][], far: number[]) {
    const { plants, bins, blocks } = this
    if (!plants) return
    const forms = this.look.species.forms
    for (const [detail, batches] of this.batches.entries()) for (const b of batches) b.begin(counts[detail])
    this.dots.begin(counts[DOT])
    const fitted = this.forced === null || this.forced <= FITTED_TO ? this.fitted : null
    this.fitted?.begin()
    for (const [from, to] of near) {
      for (let k = from; k < to; k++) {
        const bin = bins[k]
        if (bin === UNSEEN) continue
        const detail = detailOf[bin]
        if (detail === DOT) {
          this.dots.push(blocks, k)
          continue
        }
        const i = blocks.order[k]
        const own = fitted && detail <= FITTED_TO ? fitted.of[i] : -1
        if (own >= 0) fitted!.push(own)
        else this.batches[detail][plants.forms[i] % forms].push(blocks, k, plants.rotations)
      }
    }
    this.farDots.show(blocks, far, this.share)
    for (const b of this.batches.flat()) b.end()
    this.dots.end()
    this.fitted?.end()
  }

  /** Lets it answer the wind, or stand still when null. */
  sway(answer: Answer | null) {
    if (answer && !this.swayMaterial) {
      this.swayMaterial = swayMaterial()
      this.ride(this.rides)
    }
    for (const b of this.batches.flat()) b.bend(answer && this.swayMaterial)
    this.sways = Boolean(answer)
    this.dotMaterial.uniforms.uBends.value = answer ? 1 : 0
    this.letMove()
    if (!answer) return
    const { sway, push, tall_m, wide_m } = answer
    for (const m of [this.swayMaterial!, this.dotMaterial]) {
      ;(m.uniforms.uSway.value as Vector4).set(sway.hz, sway.damping, push.load, sway.most_rad)
      ;(m.uniforms.uUnrest.value as Vector4).set(push.unrest, push.aside, push.power, push.met_m)
      ;(m.uniforms.uStem.value as Vector4).set(tall_m, wide_m, sway.pressed_rad, sway.lodging)
      m.uniforms.uBlownBy.value = push.blown
    }
    for (const m of [this.meshMaterial, this.skinMaterial]) m.uniforms.uFlutter.value = push.flutter
  }

  /** Tells it which grounds move, in the order of their rows; none when all stay. */
  ride(rides: number[]) {
    this.rides = rides
    const rows = this.carriers.map((ground) => rides.indexOf(ground))
    for (const m of [this.meshMaterial, this.skinMaterial, this.dotMaterial, this.swayMaterial, ...this.cardMaterials, ...this.casters.materials]) {
      const of = m?.uniforms.uRideOf.value as Int32Array | undefined
      of?.fill(-1).set(rows)
    }
    this.carried = rows.some((row) => row >= 0)
    this.letMove()
  }

  private letMove() {
    for (const m of [this.meshMaterial, this.skinMaterial, this.dotMaterial, ...this.cardMaterials, ...this.casters.materials]) letMove(m, this.sways || this.carried)
  }

  /** Of each ground that carries some of it, where it is now; null for what stays. */
  carriedBy(): (RideNow | null)[] {
    return ridesNow.length === 0 ? [] : this.carriers.map((ground) => ridesNow.find((r) => r.ground === ground) ?? null)
  }

  /** What asks the wind for those of its plants that are drawn as more than a dot. */
  get swaying(): SwayPoints[] {
    return this.group.visible ? this.batches.flat().flatMap((b) => (b.sway && b.mesh.visible ? [b.sway] : [])) : []
  }

  /** Draws it mostly in a colour, to tell it from other layers; as it is when null. */
  key(colour: Color | null) {
    for (const m of [this.meshMaterial, this.skinMaterial, this.dotMaterial, ...this.cardMaterials]) {
      const { value } = m.uniforms.uKey as { value: Vector4 }
      if (colour) value.set(colour.r, colour.g, colour.b, 0.85)
      else value.set(0, 0, 0, 0)
    }
  }

  dispose() {
    for (const b of this.batches.flat()) b.dispose()
    this.casters.dispose()
    this.dots.dispose()
    this.farDots.dispose()
    this.fitted?.dispose()
    this.cardMaterials.forEach(dropCard)
    this.meshMaterial.dispose()
    this.swayMaterial?.dispose()
    this.skinMaterial.dispose()
    this.dotMaterial.dispose()
  }
}
