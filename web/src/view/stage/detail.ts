import { OrthographicCamera, type Camera } from 'three'
import { BEYOND, PARTLY, Sight, among } from './blocks'
import { CARD, DOT, HULL, UNSEEN, type PlantLayer } from './plantLayer'
import { carriedTo } from './carried'

/** Four size classes to a doubling of the apparent height, from half a pixel up. */
const CLASSES = 64
const PER_DOUBLING = 4
/** Apparent height, pixels, from which a plant is worth full, light and far detail, and a card; below it is a dot. */
const WORTH_PX = [240, 64, 26, 7]
/** A card has every blade where a far mesh has a few broad ones, and costs less. */
const CHOSEN = [0, 1, CARD, CARD]
/** Two crossed sheets. */
const CARD_TRIANGLES = 4

export interface Drawn {
  plants: number
  asDots: number
  asCards: number
  triangles: number
}

/** A view onto plants: the camera, and how high the picture is, pixels. */
export interface Seen {
  camera: Camera
  heightPx: number
  /** Whether the plants of blocks that are partly in sight are counted one by one. */
  exact: boolean
}

/** A layer in a picture: how finely each of its size classes is drawn, and how many of its plants are drawn at each detail. */
export interface Decided {
  layer: PlantLayer
  detailOf: Uint8Array
  counts: number[]
  /** Of blocks that are drawn as they lie. */
  far: number
}

/**
 * Decides how finely each plant is drawn: by its height on screen, and as fine as the triangle budget allows. The
 * thresholds rise together until the sum fits. Blocks too far away for anything but dots are drawn as they lie, and none
 * of their plants is looked at. `finer` doublings of its height are added to what each plant is worth.
 */
export function decide(layers: PlantLayer[], seen: Seen, budget: number, finer = 0): Decided[] {
  const sight = new Sight(seen.camera)
  const flat = seen.camera instanceof OrthographicCamera
  const shown = layers.filter((layer) => layer.plants && layer.group.visible)
  const smallest = WORTH_PX[WORTH_PX.length - 1] / 2 ** finer
  const counts = shown.map((layer) => classify(layer, sight, seen, smallest))
  let shift = -finer * PER_DOUBLING
  while (shift < CLASSES && total(shown, counts, shift, flat) > budget) shift++
  return shown.map((layer, k) => {
    const detailOf = details(shift, layer, flat)
    const perDetail = Array.from({ length: DOT + 1 }, () => 0)
    counts[k].near.forEach((n, bin) => (perDetail[detailOf[bin]] += n))
    return { layer, detailOf, counts: perDetail, far: counts[k].far }
  })
}

/** What a picture of them is told to hold. */
export function sum(all: Decided[]): Drawn {
  const drawn: Drawn = { plants: 0, asDots: 0, asCards: 0, triangles: 0 }
  for (const { layer, counts, far } of all) {
    counts.forEach((near, detail) => {
      const n = detail === DOT ? near + far : near
      if (n === 0) return
      drawn.plants += n
      if (detail === DOT) drawn.asDots += n
      else drawn.triangles += n * trianglesAt(layer, detail)
      if (detail === CARD) drawn.asCards += n
    })
  }
  return drawn
}

/** Decides, and fills all layers for one picture. */
export function assignDetail(layers: PlantLayer[], seen: Seen, budget: number): Drawn {
  const all = decide(layers, seen, budget)
  for (const { layer, detailOf, counts } of all) layer.fill(detailOf, counts)
  return sum(all)
}

export function trianglesAt(layer: PlantLayer, detail: number): number {
  if (detail === DOT) return 0
  return detail === CARD ? CARD_TRIANGLES : layer.look.species.triangles[detail]
}

/** Crossed sheets look like a cross on a stone, and from above on what is wider than tall: these stay meshes until they are dots. */
const FLAT = [0, 1, 2, 2]
/** What has so few triangles at full detail needs no light mesh, whose few broad blades one can tell: it is whole, or a card. */
const SLIGHT_TRIANGLES = 3000
const SLIGHT = [0, 0, CARD, CARD]
/** From straight above upright sheets are lines: a plan shows crowns as hulls. */
const FROM_ABOVE = [0, 1, HULL, HULL]

function chosenFor({ height_m, radius_m, triangles, thin }: Pick<PlantLayer['look']['species'], 'height_m' | 'radius_m' | 'triangles' | 'thin'>, flat: boolean): number[] {
  if (flat) return FROM_ABOVE
  if (height_m < radius_m || !thin) return FLAT
  return triangles[0] < SLIGHT_TRIANGLES ? SLIGHT : CHOSEN
}

function details(shift: number, { forced, look }: Pick<PlantLayer, 'forced' | 'look'>, flat: boolean): Uint8Array {
  const chosen = chosenFor(look.species, flat)
  const out = new Uint8Array(CLASSES)
  if (forced !== null) return out.fill(flat && forced === CARD ? HULL : forced)
  for (let bin = 0; bin < CLASSES; bin++) {
    const px = 0.5 * 2 ** ((bin - shift) / PER_DOUBLING)
    const at = WORTH_PX.findIndex((worth) => px >= worth)
    out[bin] = at < 0 ? DOT : chosen[at]
  }
  return out
}

function total(layers: PlantLayer[], counts: Counts[], shift: number, flat: boolean): number {
  let sum = 0
  layers.forEach((layer, k) => {
    const detailOf = details(shift, layer, flat)
    counts[k].near.forEach((n, bin) => {
      if (n > 0) sum += n * trianglesAt(layer, detailOf[bin])
    })
  })
  return sum
}

/** Plants in sight. */
interface Counts {
  /** By size class, of blocks that are looked at plant by plant. */
  near: Uint32Array
  /** Of blocks that are drawn as they lie. */
  far: number
}

/**
 * Finds the blocks of a layer whose plants are all smaller than `smallest` pixels and drawn as dots as they lie, and those that are looked at plant by plant; writes the size class of each
 * plant of these and counts them. What the camera cannot see is left out.
 */
function classify(layer: PlantLayer, still: Sight, { camera, heightPx, exact }: Seen, smallest: number): Counts {
  const counts: Counts = { near: new Uint32Array(CLASSES), far: 0 }
  const { blocks, bins, near, far, share, forced } = layer
  near.length = far.length = 0
  const flat = camera instanceof OrthographicCamera
  const focal = flat
    ? (heightPx * camera.zoom) / (camera.top - camera.bottom)
    : (heightPx * camera.projectionMatrix.elements[5]) / 2
  const { height_m, radius_m } = layer.look.species
  const reach = Math.max(height_m, radius_m) * 1.6
  // What is wider than tall is seen by its width.
  const tall = flat ? radius_m * 1.5 : Math.max(height_m, radius_m * 1.4)
  const { starts, largest, place, colour } = blocks
  // What a moving ground carries is looked at from where the camera is for that ground.
  const sights = layer.carriedBy().map((ride) => (ride ? new Sight(camera, carriedTo(ride)) : still))
  for (let b = 0; b < blocks.count; b++) {
    const [from, to] = [starts[b], starts[b + 1]]
    if (from === to) continue
    const sight = sights[Math.floor(b / blocks.perGround)] ?? still
    const [ex, ey, ez] = sight.eye
    const inSight = sight.of(blocks, b, reach * largest[b])
    if (inSight === BEYOND) continue
    const largestPx = (tall * largest[b] * focal) / (flat ? 1 : Math.max(sight.away(blocks, b), 0.05))
    if (blocks.count > 1 && (forced === null ? largestPx < smallest : forced === DOT)) {
      far.push(b)
      if (!exact) counts.far += Math.round((to - from) * Math.min(share, 1))
      else if (inSight !== PARTLY && share >= 1) counts.far += to - from
      else {
        for (let k = from; k < to; k++) {
          const p = k * 4
          if (among(colour[p + 3], share) && sight.sees(place[p], place[p + 1], place[p + 2], reach * place[p + 3])) counts.far++
        }
      }
      continue
    }
    near.push(b)
    for (let k = from; k < to; k++) {
      const p = k * 4
      const x = place[p]
      const y = place[p + 1]
      const z = place[p + 2]
      const size = place[p + 3]
      if (!among(colour[p + 3], share) || (inSight === PARTLY && !sight.sees(x, y, z, reach * size))) {
        bins[k] = UNSEEN
        continue
      }
      const dx = x - ex
      const dy = y - ey
      const dz = z - ez
      const d = flat ? 1 : Math.sqrt(dx * dx + dy * dy + dz * dz)
      const px = (tall * size * focal) / Math.max(d, 0.05)
      const bin = Math.min(CLASSES - 1, Math.max(0, Math.floor(Math.log2(px * 2) * PER_DOUBLING)))
      bins[k] = bin
      counts.near[bin]++
    }
  }
  return counts
}
