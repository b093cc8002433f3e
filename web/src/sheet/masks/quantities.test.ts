import { expect, test } from 'vitest'
import { QUANTITIES, below, freshMask, type Quantity } from './quantities'

/** A mesh high over the land: most of its area near its top. */
const high = { low: 40, high: 60, areas_m2: [1, 1, 2, 16] }

test('the value below which a share of the area lies', () => {
  expect(below({ low: 0, high: 10, areas_m2: [5, 5] }, 0.5)).toBeCloseTo(5)
  expect(below(high, 0.2)).toBeCloseTo(55)
  expect(below(high, 1)).toBeCloseTo(60)
  expect(below({ low: 0, high: 10, areas_m2: [0, 0] }, 0.5)).toBe(10)
})

test('an altitude mask begins where the ground is, and lets about half of it through', () => {
  const { response } = freshMask(1, 'altitude', high)
  expect(response.start).toBe(40)
  expect(response.full_to).toBeCloseTo(56.9)
  expect(response.end).toBeGreaterThan(response.full_to)
  expect(freshMask(1, 'altitude', null).response).toMatchObject({ start: QUANTITIES.altitude.low, end: QUANTITIES.altitude.high })
})

test.each(Object.keys(QUANTITIES) as Quantity[])('a fresh mask of %s runs upwards within what it may be set to', (quantity) => {
  const { start, full_from, full_to, end } = freshMask(1, quantity, high).response
  expect([start, full_from, full_to, end]).toEqual([start, full_from, full_to, end].sort((a, b) => a - b))
  expect(start).toBeGreaterThanOrEqual(QUANTITIES[quantity].low)
  expect(end).toBeLessThanOrEqual(QUANTITIES[quantity].high)
})
