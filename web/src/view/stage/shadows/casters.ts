import { BufferGeometry, Group, Points, type DataTexture, type ShaderMaterial } from 'three'
import type { PlantsBuffer } from '../../../api/buffers'
import { FormBatch } from '../batch'
import { BEYOND, Sight, type Blocks } from '../blocks'
import { crossedSheets } from '../cards'
import type { DotsAsTheyLie } from '../dotsAsTheyLie'
import type { SpeciesMeshes } from '../species'
import type { SwayPoints } from '../sway/pass'
import { cardCaster, dotCaster, meshCaster } from './casterMaterials'
import type { ShadowMap } from './maps'

/** Pixels of a map that a plant must be high or wide to cast in it; and from which it casts as more than a speckled round. */
const CASTS_FROM_PX = 1.5
const SHAPED_FROM_PX = 14
/** A map that shows single leaves: what is finer than this casts as meshes, metres a pixel. */
const LEAVES_M = 0.06
/** Twice as high as wide or less it is seen by its width. */
const WIDE = 2

/** Details that they cast with. */
const [LIGHT, FAR] = [1, 2]
/** Where the material of rounds is. */
const DOTS = 1

/** What plants of a layer cast with. */
export class PlantCasters {
  readonly group = new Group()
  readonly materials: ShaderMaterial[]
  private readonly meshes: FormBatch[]
  private readonly cards: FormBatch[]
  private readonly dots: Points<BufferGeometry, ShaderMaterial[]>
  private readonly look: SpeciesMeshes
  private readonly tall: number

  constructor(look: SpeciesMeshes, pictures: DataTexture[]) {
    this.look = look
    const { height_m, radius_m } = look.species
    this.tall = Math.max(height_m, radius_m * WIDE)
    const whole = meshCaster(height_m)
    const leafy = pictures.map((p) => cardCaster(height_m, p))
    const dots = dotCaster(look)
    this.materials = [whole, dots, ...leafy]
    // Sheets through the middle of a stone would shade its own sides.
    this.meshes = look.meshes[look.species.thin ? LIGHT : FAR].map((form) => new FormBatch(form, whole))
    this.cards = look.cards.map((c, i) => new FormBatch(crossedSheets(c), leafy[i]))
    this.dots = new Points(new BufferGeometry(), [dots])
    this.dots.frustumCulled = false
    this.group.add(this.dots, ...[...this.meshes, ...this.cards].map((b) => b.mesh))
  }

  /** Calls back once what casts in a map is ready; `mostTriangles` is what meshes may have before cards take their place. */
  cast(map: ShadowMap, blocks: Blocks, plants: PlantsBuffer, lying: DotsAsTheyLie, mostTriangles: number, draw: () => void) {
    const { found, rounds } = this.among(map, blocks)
    const fine = map.metresPerPx < LEAVES_M && found.length * this.look.species.triangles[1] < mostTriangles
    const [used, idle] = fine || !this.look.species.thin ? [this.meshes, this.cards] : [this.cards, this.meshes]
    for (const b of used) b.begin(found.length)
    for (const b of idle) b.begin(0)
    for (const k of found) used[plants.forms[blocks.order[k]] % used.length].push(blocks, k, plants.rotations)
    for (const b of [...used, ...idle]) b.end()
    this.dots.visible = rounds.length > 0
    this.materials[DOTS].uniforms.uPxPerMetre.value = 1 / map.metresPerPx
    lying.cast(blocks, rounds, this.dots, draw)
  }

  /** The plants that cast with their shapes, and the blocks whose plants are too small for that. */
  private among(map: ShadowMap, blocks: Blocks): { found: number[]; rounds: number[] } {
    const [found, rounds]: [number[], number[]] = [[], []]
    const sight = new Sight(map.camera)
    const px = this.tall / map.metresPerPx
    for (let b = 0; b < blocks.count; b++) {
      const largest = px * blocks.largest[b]
      if (blocks.starts[b] === blocks.starts[b + 1] || largest < CASTS_FROM_PX) continue
      if (sight.of(blocks, b, this.tall * blocks.largest[b] * 1.6) === BEYOND) continue
      if (largest < SHAPED_FROM_PX) {
        rounds.push(b)
        continue
      }
      for (let k = blocks.starts[b]; k < blocks.starts[b + 1]; k++) {
        const p = k * 4
        const size = blocks.place[p + 3]
        if (px * size < CASTS_FROM_PX) continue
        if (sight.sees(blocks.place[p], blocks.place[p + 1], blocks.place[p + 2], this.tall * size * 1.6)) found.push(k)
      }
    }
    return { found, rounds }
  }

  /** Lets it bend in the wind, or stand still when null. */
  bend(material: ShaderMaterial | null) {
    for (const b of [...this.meshes, ...this.cards]) b.bend(material)
  }

  get swaying(): SwayPoints[] {
    return [...this.meshes, ...this.cards].flatMap((b) => (b.sway && b.mesh.visible ? [b.sway] : []))
  }

  dispose() {
    for (const b of [...this.meshes, ...this.cards]) b.dispose()
    for (const m of this.materials) m.dispose()
  }
}
