import { Color, Group } from 'three'
import type { FitsBuffer, PlantsBuffer } from '../../api/buffers'
import { assignDetail, decide, type Decided, type Drawn, type Seen } from './detail'
import { PlantLayer, type Answer } from './plantLayer'
import type { SpeciesMeshes } from './species'
import type { ShadowMap } from './shadows/maps'
import type { SwayPoints } from './sway/pass'

export interface LayerLook {
  look: SpeciesMeshes
  plants: PlantsBuffer
  visible: boolean
  /** A detail that all are drawn at; null leaves it to their size. */
  forced: number | null
  /** A colour that tells the layer from others; null for none. */
  key: string | null
}

/** All layers of plants in a view. */
export class PlantLayers {
  readonly group = new Group()
  private readonly layers = new Map<string, PlantLayer>()
  /** Counts up when other shadows fall. */
  version = 0
  private share = 1
  private answers: Map<string, Answer> | null = null
  private rides: number[] = []

  set(id: string, { look, plants, visible, forced, key }: LayerLook) {
    let layer = this.layers.get(id)
    if (layer && layer.look !== look) {
      this.remove(id)
      layer = undefined
    }
    if (!layer) {
      layer = new PlantLayer(look)
      layer.share = this.share
      layer.sway(this.answers?.get(id) ?? null)
      layer.ride(this.rides)
      this.layers.set(id, layer)
      this.group.add(layer.group)
    }
    if (layer.plants !== plants || layer.group.visible !== visible) this.version++
    if (layer.plants !== plants) layer.set(plants)
    layer.group.visible = visible
    layer.forced = forced
    layer.key(key === null ? null : new Color(key))
  }

  /** Gives plants of a layer that stands forms of their own, see `PlantLayer.fit`. */
  fit(id: string, fits: FitsBuffer | null, species: number) {
    this.layers.get(id)?.fit(fits, species)
  }

  /** Lets each sway as is told of it by its name, or all stand when null. */
  sway(answers: Map<string, Answer> | null) {
    this.answers = answers
    for (const [id, layer] of this.layers) layer.sway(answers?.get(id) ?? null)
  }

  /** Tells which grounds move, in the order of their rows. */
  ride(rides: number[]) {
    this.rides = rides
    for (const layer of this.layers.values()) layer.ride(rides)
  }

  /** What asks the wind for plants that cast near by. */
  get casterSwaying(): SwayPoints[] {
    return this.group.visible ? [...this.layers.values()].flatMap((l) => l.casterSwaying) : []
  }

  /** Calls back with all that casts in a map, once it is ready; `mostTriangles` is what meshes of a layer may have. */
  cast(map: ShadowMap, bends: boolean, mostTriangles: number, draw: (casting: Group[]) => void) {
    const shown = this.group.visible ? [...this.layers.values()].filter((l) => l.casts) : []
    const next = (n: number) => {
      if (n === shown.length) draw(shown.map((l) => l.casters.group))
      else shown[n].cast(map, bends, mostTriangles, () => next(n + 1))
    }
    next(0)
  }

  get swaying(): SwayPoints[] {
    return this.group.visible ? [...this.layers.values()].flatMap((l) => l.swaying) : []
  }

  swayingOf(id: string): SwayPoints[] {
    return this.layers.get(id)?.swaying ?? []
  }

  /** Draws only so large a share of the plants; counts stay what they are. */
  preview(share: number) {
    this.share = share
    for (const layer of this.layers.values()) layer.share = share
  }

  remove(id: string) {
    const layer = this.layers.get(id)
    if (!layer) return
    this.version++
    this.group.remove(layer.group)
    layer.dispose()
    this.layers.delete(id)
  }

  /** Decides what of them the next picture holds. `pxPerMetre` is at a metre's distance, or anywhere in a plan; only a share of the dots is drawn, as large as all. */
  prepare(seen: Seen, pxPerMetre: number, perspective: boolean, budget: number, thinned = 1): Drawn {
    this.scale(pxPerMetre, perspective, thinned)
    return assignDetail(this.shown, seen, budget)
  }

  /** The same for a picture that is drawn slice by slice, finer than that by so many doublings of each plant's height. */
  decide(seen: Seen, pxPerMetre: number, perspective: boolean, budget: number, finer: number): Decided[] {
    this.scale(pxPerMetre, perspective, 1)
    return decide(this.shown, seen, budget, finer)
  }

  private get shown(): PlantLayer[] {
    return this.group.visible ? [...this.layers.values()] : []
  }

  private scale(pxPerMetre: number, perspective: boolean, thinned: number) {
    for (const layer of this.layers.values()) {
      layer.dotMaterial.uniforms.uThinned.value = thinned
      layer.dotMaterial.uniforms.uScale.value = pxPerMetre
      layer.dotMaterial.uniforms.uPerspective.value = perspective ? 1 : 0
    }
  }

  dispose() {
    for (const id of this.layers.keys()) this.remove(id)
  }
}
