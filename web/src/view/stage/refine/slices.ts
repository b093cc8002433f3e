import { trianglesAt, type Decided } from '../detail'
import { DOT, UNSEEN, type PlantLayer } from '../plantLayer'

/** A part of a picture that is drawn at once: runs of plants of a layer in the order of its blocks, and blocks of its far ones. */
export interface Slice {
  layer: PlantLayer
  detailOf: Uint8Array
  counts: number[]
  near: [number, number][]
  far: number[]
}

/** What a dot is worth in triangles, and a plant that is out of sight but must be looked at. */
const DOT_TRIANGLES = 0.5
const LOOK_TRIANGLES = 0.05

/** Cuts a picture into parts of about so many triangles. */
export function slices(all: Decided[], most: number): Slice[] {
  return all.flatMap((one) => ofLayer(one, most))
}

function ofLayer({ layer, detailOf, counts }: Decided, most: number): Slice[] {
  const { bins, blocks, near, far } = layer
  const empty = (): Slice => ({ layer, detailOf, counts, near: [], far: [] })
  const out: Slice[] = []
  let now = empty()
  let cost = 0
  const cut = () => {
    if (now.near.length > 0 || now.far.length > 0) out.push(now)
    now = empty()
    cost = 0
  }
  for (const block of far) {
    now.far.push(block)
    cost += (blocks.starts[block + 1] - blocks.starts[block]) * DOT_TRIANGLES
    if (cost >= most) cut()
  }
  for (const block of near) {
    let from = blocks.starts[block]
    const end = blocks.starts[block + 1]
    for (let k = from; k < end; k++) {
      const detail = bins[k] === UNSEEN ? UNSEEN : detailOf[bins[k]]
      cost += detail === UNSEEN ? LOOK_TRIANGLES : detail === DOT ? DOT_TRIANGLES : trianglesAt(layer, detail)
      if (cost < most) continue
      now.near.push([from, k + 1])
      from = k + 1
      cut()
    }
    if (from < end) now.near.push([from, end])
  }
  cut()
  return out
}
