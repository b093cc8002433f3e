import type { Camera } from 'three'
import { Frustum, Matrix4, Vector3 } from 'three'
import type { PlantsBuffer } from '../../api/buffers'

/** Plants of a block, about. */
const TOGETHER = 800
/** Fewer than these are not worth it: one block holds them all. */
const WORTH = 4000

/** As it is: neither stretched nor of another colour, see `encode_plants`. */
export const PLAIN = 128

/**
 * Plants by the ground that carries them and square blocks of the plan, so that what is in sight and how finely it is drawn is decided block by block. Blocks follow one
 * another in rows, so that what is seen of them are a few runs; what the graphics take of each plant lies in the same order.
 */
export interface Blocks {
  count: number
  plants: number
  /** Which plants they are, block after block. Lists may be longer than there are plants. */
  order: Uint32Array
  /** Where those of each block begin in `order`; one more at the end. */
  starts: Uint32Array
  /** Of each block six numbers: the lowest and the highest corner of the base points, metres. */
  boxes: Float32Array
  /** The largest size of each. */
  largest: Float32Array
  /** In that order: base point, metres, and size. */
  place: Float32Array<ArrayBuffer>
  /** Lightness and warmth, height and depth. */
  tint: Uint8Array<ArrayBuffer>
  /** Colour, and a number of its own by which a share of them is drawn. */
  colour: Uint8Array<ArrayBuffer>
  /** Which of the grounds that carry them, where those are several; see `slotsOf`. */
  ground: Uint8Array<ArrayBuffer> | null
  /** Blocks of one ground: those of the next follow. */
  perGround: number
}

export type Plants = Pick<PlantsBuffer, 'count' | 'positions' | 'sizes' | 'tints' | 'stretches' | 'colours' | 'carried'>

/** Grounds that the plants of a layer can be told apart by; what is on others stays. */
export const SLOTS = 16

/** The grounds that carry plants, how many they are told apart by, and of each plant which of them, where they are several. */
export function slotsOf({ count, carried = [] }: Pick<Plants, 'count' | 'carried'>): { grounds: number[]; slots: number; of: Uint8Array | null } {
  const all = [...new Set(carried.filter(([, n]) => n > 0).map(([ground]) => ground))]
  const grounds = all.slice(0, SLOTS - 1)
  if (grounds.length < 2) return { grounds, slots: 1, of: null }
  const of = new Uint8Array(count)
  let at = 0
  for (const [ground, n] of carried) {
    const slot = grounds.indexOf(ground)
    of.fill(slot < 0 ? SLOTS - 1 : slot, at, (at += n))
  }
  return { grounds, slots: Math.min(all.length, SLOTS), of }
}

/** Lays plants out in blocks; `spare` is written over where it has the room. */
export function inBlocks({ count, positions, sizes, tints, stretches, colours, carried }: Plants, spare?: Blocks): Blocks {
  let [west, north, east, south] = [Infinity, Infinity, -Infinity, -Infinity]
  for (let i = 0; i < count; i++) {
    const x = positions[i * 3]
    const z = positions[i * 3 + 2]
    if (x < west) west = x
    if (x > east) east = x
    if (z < north) north = z
    if (z > south) south = z
  }
  const one = count < WORTH
  const [across, along] = one ? [0, 0] : [east - west, south - north]
  const side = Math.max(Math.sqrt((across * along * TOGETHER) / Math.max(count, 1)), Math.max(across, along) / 1000, 1e-3)
  const columns = Math.floor(across / side) + 1
  const perGround = columns * (Math.floor(along / side) + 1)
  const { of, slots } = slotsOf({ count, carried })
  const blocks = perGround * slots
  const per = 1 / side
  const starts = new Uint32Array(blocks + 1)
  const own = new Uint32Array(count)
  if (!one || of) {
    for (let i = 0; i < count; i++) {
      const block = one ? 0 : Math.floor((positions[i * 3 + 2] - north) * per) * columns + Math.floor((positions[i * 3] - west) * per)
      // Rounded up at the very edge it could be one too many.
      own[i] = (of ? of[i] * perGround : 0) + (block < perGround ? block : perGround - 1)
    }
  }
  for (let i = 0; i < count; i++) starts[own[i] + 1]++
  for (let b = 0; b < blocks; b++) starts[b + 1] += starts[b]
  const boxes = new Float32Array(blocks * 6)
  const largest = new Float32Array(blocks)
  for (let b = 0; b < blocks; b++) boxes.fill(Infinity, b * 6, b * 6 + 3).fill(-Infinity, b * 6 + 3, b * 6 + 6)
  const next = starts.slice(0, blocks)
  const room = spare && spare.order.length >= count ? spare.order.length : Math.ceil(count * 1.05) + 16
  const again = spare && spare.order.length >= count
  const order = again ? spare.order : new Uint32Array(room)
  const place = again ? spare.place : new Float32Array(room * 4)
  const tint = again ? spare.tint : new Uint8Array(room * 4)
  const colour = again ? spare.colour : new Uint8Array(room * 4)
  const ground = of && (again && spare.ground ? spare.ground : new Uint8Array(room))
  const two = new Uint8Array(tints.buffer, tints.byteOffset, count * 2)
  // Read from first to last and written to the end of each block: memory is fast both ways.
  for (let i = 0; i < count; i++) {
    const block = own[i]
    const k = next[block]++
    const x = positions[i * 3]
    const y = positions[i * 3 + 1]
    const z = positions[i * 3 + 2]
    const size = sizes[i]
    const b = block * 6
    if (x < boxes[b]) boxes[b] = x
    if (y < boxes[b + 1]) boxes[b + 1] = y
    if (z < boxes[b + 2]) boxes[b + 2] = z
    if (x > boxes[b + 3]) boxes[b + 3] = x
    if (y > boxes[b + 4]) boxes[b + 4] = y
    if (z > boxes[b + 5]) boxes[b + 5] = z
    if (size > largest[block]) largest[block] = size
    order[k] = i
    place[k * 4] = x
    place[k * 4 + 1] = y
    place[k * 4 + 2] = z
    place[k * 4 + 3] = size
    tint[k * 4] = two[i * 2]
    tint[k * 4 + 1] = two[i * 2 + 1]
    tint[k * 4 + 2] = stretches ? stretches[i * 2] : PLAIN
    tint[k * 4 + 3] = stretches ? stretches[i * 2 + 1] : PLAIN
    colour[k * 4] = colours ? colours[i * 3] : PLAIN
    colour[k * 4 + 1] = colours ? colours[i * 3 + 1] : PLAIN
    colour[k * 4 + 2] = colours ? colours[i * 3 + 2] : PLAIN
    colour[k * 4 + 3] = ownNumber(i) >>> 24
    if (ground) ground[k] = of[i]
  }
  return { count: blocks, plants: count, order, starts, boxes, largest, place, tint, colour, ground, perGround }
}

/** A number of its own for each plant, from 0 to 2^32, so that a smaller share is a part of the larger. */
function ownNumber(i: number): number {
  const h = Math.imul(i ^ (i >>> 15), 0x2c1b3c6d)
  return Math.imul(h ^ (h >>> 12), 0x297a2d39) >>> 0
}

/** Whether a plant is among so large a share, by the last of its colour. */
export function among(own: number, share: number): boolean {
  return own < share * 256
}

/** How much of something is in sight. */
export const BEYOND = 0
export const PARTLY = 1
export const WHOLLY = 2

/** What a camera sees: the four planes at its sides, and its eye. */
export class Sight {
  /** Four numbers a plane; near and far are left out. */
  readonly sides: number[]
  readonly eye: [number, number, number]
  private static readonly matrix = new Matrix4()
  private static readonly back = new Matrix4()
  private static readonly frustum = new Frustum()

  /** `carried` is what the plants that are looked at are moved by, from where they stand. */
  constructor(camera: Camera, carried?: Matrix4) {
    // Gribb & Hartmann 2001: the planes of the frustum from the projection matrix.
    Sight.matrix.multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse)
    if (carried) Sight.matrix.multiply(carried)
    Sight.frustum.setFromProjectionMatrix(Sight.matrix)
    this.sides = Sight.frustum.planes.slice(0, 4).flatMap((p) => [p.normal.x, p.normal.y, p.normal.z, p.constant])
    const at = camera.matrixWorld.elements
    const eye = new Vector3(at[12], at[13], at[14])
    if (carried) eye.applyMatrix4(Sight.back.copy(carried).invert())
    this.eye = [eye.x, eye.y, eye.z]
  }

  /** How much of a block is in sight, where each plant reaches so far about its base point. */
  of({ boxes }: Blocks, block: number, reach: number): number {
    const b = block * 6
    let wholly = true
    for (let s = 0; s < 16; s += 4) {
      const [x, y, z, away] = [this.sides[s], this.sides[s + 1], this.sides[s + 2], this.sides[s + 3]]
      const most = x * boxes[x > 0 ? b + 3 : b] + y * boxes[y > 0 ? b + 4 : b + 1] + z * boxes[z > 0 ? b + 5 : b + 2] + away
      if (most < -reach) return BEYOND
      const least = x * boxes[x > 0 ? b : b + 3] + y * boxes[y > 0 ? b + 1 : b + 4] + z * boxes[z > 0 ? b + 2 : b + 5] + away
      if (least < -reach) wholly = false
    }
    return wholly ? WHOLLY : PARTLY
  }

  /** Whether a plant is in sight that reaches so far. */
  sees(x: number, y: number, z: number, reach: number): boolean {
    const s = this.sides
    return (
      s[0] * x + s[1] * y + s[2] * z + s[3] >= -reach &&
      s[4] * x + s[5] * y + s[6] * z + s[7] >= -reach &&
      s[8] * x + s[9] * y + s[10] * z + s[11] >= -reach &&
      s[12] * x + s[13] * y + s[14] * z + s[15] >= -reach
    )
  }

  /** How far the nearest point of a block's box is, metres. */
  away({ boxes }: Blocks, block: number): number {
    const b = block * 6
    let sum = 0
    for (let c = 0; c < 3; c++) {
      const d = Math.max(boxes[b + c] - this.eye[c], this.eye[c] - boxes[b + 3 + c], 0)
      sum += d * d
    }
    return Math.sqrt(sum)
  }
}
