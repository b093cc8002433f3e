import { PerspectiveCamera } from 'three'
import { expect, test } from 'vitest'
import { BEYOND, SLOTS, Sight, WHOLLY, inBlocks, slotsOf } from './blocks'
import { runs } from './dotsAsTheyLie'

function scattered(count: number, side: number) {
  const positions = new Float32Array(count * 3)
  const sizes = new Float32Array(count)
  for (let i = 0; i < count; i++) {
    // Golden section in both: no two alike, and all the same at every run.
    positions[i * 3] = (((i * 0.618034) % 1) - 0.5) * side
    positions[i * 3 + 1] = (i * 0.37) % 9
    positions[i * 3 + 2] = (((i * 0.754878) % 1) - 0.5) * side * 0.5
    sizes[i] = 0.5 + ((i * 0.123) % 1)
  }
  return { count, positions, sizes, tints: new Uint16Array(count).map((_, i) => i) }
}

test('every plant is in one block, within its box and no larger than its largest', () => {
  const plants = scattered(50_000, 300)
  const blocks = inBlocks(plants)
  expect(blocks.count).toBeGreaterThan(40)
  expect(new Set(blocks.order.subarray(0, plants.count)).size).toBe(plants.count)
  expect(blocks.starts.at(-1)).toBe(plants.count)
  let wrong = 0
  for (let b = 0; b < blocks.count; b++) {
    for (const i of blocks.order.subarray(blocks.starts[b], blocks.starts[b + 1])) {
      for (let c = 0; c < 3; c++) {
        const at = plants.positions[i * 3 + c]
        if (at < blocks.boxes[b * 6 + c] || at > blocks.boxes[b * 6 + 3 + c]) wrong++
      }
      if (plants.sizes[i] > blocks.largest[b]) wrong++
    }
  }
  expect(wrong).toBe(0)
})

test('a few plants, a row of them, one alone and none are blocks as well', () => {
  const row = { count: 9000, positions: new Float32Array(27_000).map((_, i) => (i % 3 === 0 ? i / 3 : 0)), sizes: new Float32Array(9000).fill(1), tints: new Uint16Array(9000) }
  expect(inBlocks(row).count).toBeGreaterThan(5)
  for (const count of [0, 1, 100]) {
    const blocks = inBlocks(scattered(count, 10))
    expect(blocks.count).toBe(1)
    expect([...blocks.starts]).toEqual([0, count])
  }
  const heap = { count: 9000, positions: new Float32Array(27_000).fill(3), sizes: new Float32Array(9000).fill(1), tints: new Uint16Array(9000) }
  expect(inBlocks(heap).starts.at(-1)).toBe(9000)
})

test('of a block beyond sight no plant is seen, and of one wholly in sight every one', () => {
  const plants = scattered(20_000, 400)
  const blocks = inBlocks(plants)
  const found = new Set<number>()
  let wrong = 0
  for (let turn = 0; turn < 12; turn++) {
    const camera = new PerspectiveCamera(40, 1.5, 0.1, 5000)
    camera.position.set(turn * 9 - 50, 30, turn * 5)
    camera.rotation.set(-0.2, turn, 0, 'YXZ')
    camera.updateMatrixWorld()
    const sight = new Sight(camera)
    for (let b = 0; b < blocks.count; b++) {
      const reach = 2 * blocks.largest[b]
      const how = sight.of(blocks, b, reach)
      found.add(how)
      for (const i of blocks.order.subarray(blocks.starts[b], blocks.starts[b + 1])) {
        const [x, y, z] = plants.positions.subarray(i * 3)
        const sees = sight.sees(x, y, z, reach)
        if ((how === BEYOND && sees) || (how === WHOLLY && !sees)) wrong++
        if (Math.hypot(x - sight.eye[0], y - sight.eye[1], z - sight.eye[2]) < sight.away(blocks, b) - 1e-3) wrong++
      }
    }
  }
  expect(wrong).toBe(0)
  expect(found.size).toBe(3)
})

test('blocks that follow one another are one run', () => {
  expect(runs([0, 1, 2, 5, 7, 8])).toEqual([[0, 3], [5, 6], [7, 9]])
  expect(runs([])).toEqual([])
})

test('plants are told apart by the ground that carries them, where there are several', () => {
  const one = slotsOf({ count: 5, carried: [[7, 5], [3, 0]] })
  expect(one).toEqual({ grounds: [7], slots: 1, of: null })
  const two = slotsOf({ count: 6, carried: [[0, 2], [7, 1], [0, 3]] })
  expect(two.grounds).toEqual([0, 7])
  expect([...two.of!]).toEqual([0, 0, 1, 0, 0, 0])
  // Grounds beyond those that can be told apart are all one.
  const many = slotsOf({ count: 20, carried: Array.from({ length: 20 }, (_, i) => [i, 1]) })
  expect(many.of![SLOTS]).toBe(SLOTS - 1)
  const plants = { ...scattered(20_000, 90), carried: [[0, 8000], [4, 12_000]] as [number, number][] }
  const blocks = inBlocks(plants)
  expect(Array.from({ length: plants.count }, (_, k) => blocks.ground![k] === (blocks.order[k] < 8000 ? 0 : 1)).every(Boolean)).toBe(true)
  // No block holds plants of two grounds.
  const slotOf = (k: number) => Math.floor((blocks.starts.findIndex((s) => s > k) - 1) / blocks.perGround)
  for (let k = 0; k < plants.count; k += 97) expect(slotOf(k)).toBe(blocks.ground![k])
  expect(inBlocks(scattered(100, 9)).ground).toBeNull()
  expect(inBlocks({ ...scattered(100, 9), carried: [[0, 40], [4, 60]] }).count).toBe(2)
})
