import { expect, test } from 'vitest'
import { joined } from './histograms'

const sum = (list: number[]) => list.reduce((a, b) => a + b, 0)

test('one histogram stays as it is, and none is none', () => {
  const one = { low: 0, high: 4, areas_m2: [1, 2, 3, 4] }
  expect(joined([one])).toBe(one)
  expect(joined([])).toBeNull()
})

test('areas are kept and lie where they lay', () => {
  const all = joined([{ low: 0, high: 4, areas_m2: [10, 0, 0, 6] }, { low: 0, high: 8, areas_m2: [4, 4, 4, 4] }])!
  expect([all.low, all.high]).toEqual([0, 8])
  expect(sum(all.areas_m2)).toBeCloseTo(32)
  expect(all.areas_m2).toEqual([14, 10, 4, 4])
})
