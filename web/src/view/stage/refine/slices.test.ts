import { PerspectiveCamera } from 'three'
import { expect, test } from 'vitest'
import type { PlantsBuffer } from '../../../api/buffers'
import { decide, sum } from '../detail'
import { PlantLayer } from '../plantLayer'
import { sampleLook } from '../sample'
import { slices } from './slices'

function field(side: number): PlantsBuffer {
  const count = side * side
  const positions = new Float32Array(count * 3)
  for (let i = 0; i < count; i++) {
    positions[i * 3] = (i % side) - side / 2
    positions[i * 3 + 2] = -Math.floor(i / side)
  }
  return {
    count, tally: {} as PlantsBuffer['tally'], positions, sizes: new Float32Array(count).fill(1),
    rotations: new Int16Array(count * 4), forms: new Uint16Array(count), tints: new Uint16Array(count),
  }
}

function decided(side: number, finer: number, budget = 1e12) {
  const layer = new PlantLayer(sampleLook(1, 0.6))
  layer.set(field(side))
  const camera = new PerspectiveCamera(42, 1.5, 0.1, 5000)
  camera.position.set(0, 2, 5)
  camera.updateMatrixWorld()
  return decide([layer], { camera, heightPx: 800, exact: true }, budget, finer)
}

test('slices hold every plant of the picture once, each no more than it may', () => {
  const all = decided(200, 2)
  const { layer } = all[0]
  const cut = slices(all, 20_000)
  expect(cut.length).toBeGreaterThan(10)
  const runs = cut.flatMap((s) => s.near)
  const held = new Set(runs.flatMap(([from, to]) => Array.from({ length: to - from }, (_, n) => from + n)))
  const { starts } = layer.blocks
  expect(runs.reduce((n, [from, to]) => n + to - from, 0)).toBe(held.size)
  expect(held.size).toBe(layer.near.reduce((n, b) => n + starts[b + 1] - starts[b], 0))
  expect(cut.flatMap((s) => s.far)).toEqual(layer.far)
  for (const s of cut) {
    const most = s.near.reduce((n, [from, to]) => n + (to - from), 0)
    expect(most).toBeLessThan(200 * 200)
  }
})

test('a few plants in one block are cut as well', () => {
  const cut = slices(decided(30, 3), 10_000)
  expect(cut.length).toBeGreaterThan(3)
})

test('a finer picture holds fewer dots and more triangles, of the same plants', () => {
  const [rough, fine] = [sum(decided(200, 0)), sum(decided(200, 2))]
  expect(fine.plants).toBe(rough.plants)
  expect(fine.asDots).toBeLessThan(rough.asDots)
  expect(fine.triangles).toBeGreaterThan(rough.triangles)
})

test('no picture has more triangles than it may', () => {
  expect(sum(decided(200, 3, 150_000)).triangles).toBeLessThanOrEqual(150_000)
})
