import { expect, test } from 'vitest'
import { dug, fitted, hollow } from './basin'

/** A bowl 2 m deep and 10 m to its rim, on level land at 5 m. */
const bowl = (x: number, z: number) => 5 - 2 * Math.max(0, 1 - Math.hypot(x - 3, z + 1) / 10)
const slope = (x: number) => x * 0.1

test('a pool fills its hollow to the bank and no farther', () => {
  // At 4 m the bowl is 5 m wide to each side: 2 (1 - r / 10) = 1.
  const found = hollow(bowl, 3, -1, 4)!
  expect(found.x_m).toBeCloseTo(3, 0)
  expect(found.z_m).toBeCloseTo(-1, 0)
  expect(found.width_m).toBeGreaterThanOrEqual(10)
  expect(found.width_m).toBeLessThanOrEqual(11.5)
  expect(bowl(found.x_m + found.width_m / 2, found.z_m)).toBeGreaterThanOrEqual(4)
})

test('water that would run out, or stand nowhere, is no pool', () => {
  expect(hollow(slope, 0, 0, 0.5)).toBeNull()
  expect(hollow(bowl, 3, -1, 5.2)).toBeNull()
  expect(hollow(bowl, 3, -1, 2)).toBeNull()
  expect(hollow((x) => (Math.abs(x) < 4 ? 0 : null), 0, 0, 1)).toBeNull()
})

test('of a hollow the fullest pool is taken that does not run out', () => {
  expect(fitted(bowl, 3, -1)!.height_m).toBeCloseTo(4.2)
  expect(fitted(slope, 0, 0)).toBeNull()
})

test('where there is no hollow one is dug: its level lies under all of the rim, and its middle under the level', () => {
  const found = dug(slope, 0, 0, 6)!
  for (let i = 0; i < 360; i++) expect(slope(6 * Math.cos((i * Math.PI) / 180))).toBeGreaterThan(found.height_m)
  expect(slope(0) - found.lower_m).toBeLessThan(found.height_m - 0.5)
  expect(dug(() => null, 0, 0, 6)).toBeNull()
})
