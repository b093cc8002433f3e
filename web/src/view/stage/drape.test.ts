import { expect, test } from 'vitest'
import type { GroundBuffer } from '../../api/buffers'
import { drape, edges } from './drape'

const histogram = { low: 0, high: 1, areas_m2: [] }
const ground: GroundBuffer = {
  nx: 11, nz: 11, size_m: [20, 20], step: 1, low_m: 0, high_m: 10, water_m: null, slope: histogram, altitude: histogram,
  heights: new Float32Array(121).map((_, i) => (i % 11) * 1), slopes: new Float32Array(121), colours: new Uint8Array(484), earths: new Uint8Array(484),
}

test('a line follows the ground from cell to cell', () => {
  const points = drape(ground, [[-10, 0], [10, 0]])
  expect(points.length / 3).toBe(11)
  for (let i = 0; i < points.length; i += 3) expect(points[i + 1]).toBeCloseTo((points[i] + 10) / 2 + 0.4, 4)
})

test('what lies beside the ground is left out', () => {
  expect(drape(ground, [[30, 30], [40, 40]])).toEqual([])
  expect(drape(ground, [[0, 0], [30, 0]]).length / 3).toBeGreaterThan(4)
})

test('the edges of a track lie half its width to either side', () => {
  const [a, b] = edges([[0, 0], [10, 0], [20, 0]], 4)
  expect(a.map((p) => p[1])).toEqual([2, 2, 2])
  expect(b.map((p) => p[1])).toEqual([-2, -2, -2])
  expect(a.map((p) => p[0])).toEqual([0, 10, 20])
})
