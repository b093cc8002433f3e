import { Frustum, Matrix4, OrthographicCamera, type Camera } from 'three'
import { CARD, DOT, UNSEEN, type PlantLayer } from './plantLayer'

/** Four size classes to a doubling of the apparent height, from half a pixel up. */
const CLASSES = 64
const PER_DOUBLING = 4
/** Apparent height, pixels, from which a plant is worth full, light and far detail, and a card; below it is a dot. */
const WORTH_PX = [240, 64, 26, 7]
const CHOSEN = [0, 1, 2, CARD]
/** Two crossed sheets. */
const CARD_TRIANGLES = 4

export interface Drawn {
  plants: number
  asDots: number
  asCards: number
  triangles: number
}

/**
 * Decides how finely each plant is drawn: by its height on screen, and as fine as the triangle budget allows. The
 * thresholds rise together until the sum fits.
 */
export function assignDetail(layers: PlantLayer[], camera: Camera, heightPx: number, budget: number): Drawn {
  const counts = layers.map((layer) => classify(layer, camera, heightPx))
  let shift = 0
  while (shift < CLASSES && total(layers, counts, shift) > budget) shift++
  const drawn: Drawn = { plants: 0, asDots: 0, asCards: 0, triangles: 0 }
  layers.forEach((layer, k) => {
    const detailOf = details(shift, layer)
    const perDetail = Array.from({ length: DOT + 1 }, () => 0)
    counts[k].forEach((n, bin) => (perDetail[detailOf[bin]] += n))
    layer.fill(detailOf, perDetail)
    perDetail.forEach((n, detail) => {
      if (n === 0) return
      drawn.plants += n
      if (detail === DOT) drawn.asDots += n
      else drawn.triangles += n * trianglesAt(layer, detail)
      if (detail === CARD) drawn.asCards += n
    })
  })
  return drawn
}

function trianglesAt(layer: PlantLayer, detail: number): number {
  if (detail === DOT) return 0
  return detail === CARD ? CARD_TRIANGLES : layer.look.species.triangles[detail]
}

/** Crossed sheets look like a cross from above on what is wider than tall: that stays a mesh until it is a dot. */
const FLAT = [0, 1, 2, 2]

function details(shift: number, { forced, look }: Pick<PlantLayer, 'forced' | 'look'>): Uint8Array {
  const chosen = look.species.height_m < look.species.radius_m ? FLAT : CHOSEN
  const out = new Uint8Array(CLASSES)
  if (forced !== null) return out.fill(forced)
  for (let bin = 0; bin < CLASSES; bin++) {
    const px = 0.5 * 2 ** ((bin - shift) / PER_DOUBLING)
    const at = WORTH_PX.findIndex((worth) => px >= worth)
    out[bin] = at < 0 ? DOT : chosen[at]
  }
  return out
}

function total(layers: PlantLayer[], counts: Uint32Array[], shift: number): number {
  let sum = 0
  layers.forEach((layer, k) => {
    const detailOf = details(shift, layer)
    counts[k].forEach((n, bin) => {
      if (n > 0) sum += n * trianglesAt(layer, detailOf[bin])
    })
  })
  return sum
}

const matrix = new Matrix4()
const frustum = new Frustum()

/** A number of its own from 0 to 1 for each plant, so that a smaller share is a part of the larger. */
function ownNumber(i: number): number {
  const h = Math.imul(i ^ (i >>> 15), 0x2c1b3c6d)
  return (Math.imul(h ^ (h >>> 12), 0x297a2d39) >>> 0) / 4294967296
}

/** Writes the size class of every plant of a layer and counts them; what the camera cannot see is left out. */
function classify(layer: PlantLayer, camera: Camera, heightPx: number): Uint32Array {
  const counts = new Uint32Array(CLASSES)
  const { plants, bins } = layer
  if (!plants) return counts
  if (!layer.group.visible) {
    bins.fill(UNSEEN)
    return counts
  }
  matrix.multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse)
  frustum.setFromProjectionMatrix(matrix)
  // Gribb & Hartmann 2001: the planes of the frustum from the projection matrix. Near and far are left out.
  const sides = frustum.planes.slice(0, 4).flatMap((p) => [p.normal.x, p.normal.y, p.normal.z, p.constant])
  const flat = camera instanceof OrthographicCamera
  const focal = flat
    ? (heightPx * camera.zoom) / (camera.top - camera.bottom)
    : (heightPx * camera.projectionMatrix.elements[5]) / 2
  const eye = camera.matrixWorld.elements
  const [ex, ey, ez] = [eye[12], eye[13], eye[14]]
  const { height_m, radius_m } = layer.look.species
  const reach = Math.max(height_m, radius_m) * 1.6
  // What is wider than tall is seen by its width.
  const tall = flat ? radius_m * 1.5 : Math.max(height_m, radius_m * 1.4)
  const { positions, sizes, count } = plants
  const scale = PER_DOUBLING / Math.LN2
  const { share } = layer
  for (let i = 0; i < count; i++) {
    if (share < 1 && ownNumber(i) >= share) {
      bins[i] = UNSEEN
      continue
    }
    const x = positions[i * 3]
    const y = positions[i * 3 + 1]
    const z = positions[i * 3 + 2]
    const margin = -reach * sizes[i]
    if (
      sides[0] * x + sides[1] * y + sides[2] * z + sides[3] < margin ||
      sides[4] * x + sides[5] * y + sides[6] * z + sides[7] < margin ||
      sides[8] * x + sides[9] * y + sides[10] * z + sides[11] < margin ||
      sides[12] * x + sides[13] * y + sides[14] * z + sides[15] < margin
    ) {
      bins[i] = UNSEEN
      continue
    }
    const d = flat ? 1 : Math.sqrt((x - ex) ** 2 + (y - ey) ** 2 + (z - ez) ** 2)
    const px = (tall * sizes[i] * focal) / Math.max(d, 0.05)
    const bin = Math.min(CLASSES - 1, Math.max(0, Math.floor(Math.log(px * 2) * scale)))
    bins[i] = bin
    counts[bin]++
  }
  return counts
}
