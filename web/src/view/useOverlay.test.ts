import { expect, test } from 'vitest'
import type { ReadingBuffer } from '../api/buffers'
import { readTogether, turned } from './useOverlay'

const read = (low: number, high: number, scale: ReadingBuffer['scale'], areas_m2: number[]): ReadingBuffer => ({
  nx: 2, nz: 1, reading: 'plan_curvature', unit: '1/m', scale, histogram: { low, high, areas_m2 }, values: new Float32Array([low, high]),
})

test('two grounds are read on one scale, and their areas are counted together', () => {
  const { low, high, histogram } = readTogether([read(0, 10, 'rising', [3, 1]), read(10, 20, 'rising', [0, 2])])!
  expect([low, high]).toEqual([0, 20])
  expect(histogram!.areas_m2).toEqual([4, 2])
})

test('what lies to either side of zero keeps zero in the middle', () => {
  const { low, high, histogram } = readTogether([read(-1, 1, 'about_zero', [2, 2]), read(-4, 2, 'about_zero', [6, 0])])!
  expect([low, high]).toEqual([-4, 4])
  expect(histogram!.areas_m2.reduce((a, b) => a + b)).toBeCloseTo(10, 5)
})

test('one ground keeps the ends it has, and none has no scale', () => {
  expect(readTogether([read(-1, 3, 'about_zero', [1, 1])])!.low).toBe(-1)
  expect(readTogether([])).toBeNull()
})

test('a ground that is turned faces other ways', () => {
  const own = new Float32Array([0, 90, 350, NaN])
  expect([...turned(own, 30)]).toEqual([30, 120, 20, NaN])
  expect([...turned(own, -100)]).toEqual([260, 350, 250, NaN])
  expect(turned(own, 0)).toBe(own)
})
