import { expect, test } from 'vitest'
import { rideAt } from '../../view/stage/sway/ways'
import { MOST_KEYS, firstKeys, shaken, shakenUpTo, withKey, type MoveKey } from './rides'

const key = (time_s: number, x_m: number): MoveKey => ({ time_s, x_m, y_m: 0, z_m: 0, turn_deg: 0 })

test('a key is added between its neighbours, once', () => {
  const keys = [key(0, 0), key(4, 2)]
  expect(withKey(keys, 1)[1]).toEqual(key(1, 0.5))
  expect(withKey(keys, 6).at(-1)).toEqual(key(6, 2))
  expect(withKey(keys, 4.02)).toBe(keys)
  expect(firstKeys(10).map((k) => k.time_s)).toEqual([0, 5, 10])
})

test('it is shaken about its way from a time on, within the keys it may have', () => {
  const keys = [key(0, 0), key(4, 2), key(9, 2)]
  const all = shaken(keys, { by_m: 0.1, hz: 2, seconds: 1 }, 5)
  expect(all.map((k) => k.time_s)).toEqual([0, 4, 5, 5.25, 5.5, 5.75, 6, 6.25, 9])
  expect(all.slice(3, 7).every((k) => Math.abs(Math.hypot(k.x_m - 2, k.z_m) - 0.1) < 2e-3)).toBe(true)
  expect([all[2], all[7]]).toEqual([key(5, 2), key(6.25, 2)])
  // Its way goes on below it, and a key in that time gives way.
  const going = shaken(keys, { by_m: 0.1, hz: 2, seconds: 1 }, 3)
  expect(going.map((k) => k.time_s)).toEqual([0, 3, 3.25, 3.5, 3.75, 4, 4.25, 9])
  expect(Math.abs(going[2].x_m - 1.625)).toBeLessThanOrEqual(0.101)
  const long = { by_m: 0.1, hz: 5, seconds: 60 }
  const most = shaken(keys, long, 5)
  expect(most.length).toBeLessThanOrEqual(MOST_KEYS)
  expect(shakenUpTo(keys, long, 5)).toBeCloseTo(6)
  for (let i = 1; i < most.length; i++) expect(most[i].time_s).toBeGreaterThan(most[i - 1].time_s)
})

test('the view goes from key to key as core does', () => {
  // The middle of one span from rest to rest, of 3 m in 2 s: halfway, at no acceleration; -18 m/s2 over the span is 6 d / t2 at its ends.
  const ride = { ground: 3, about_m: [0, 0], keys: [
    { time_s: 1, at: [0, 0, 0, 0], pull: [4.5, 0, 0, 0] }, { time_s: 3, at: [3, 0, 0, 0], pull: [-4.5, 0, 0, 0] },
  ] }
  const now = rideAt(ride, 2)
  expect(now.by[0]).toBeCloseTo(1.5)
  expect(now.pull[0]).toBeCloseTo(0)
  expect(now.slope[0]).toBeCloseTo(-4.5)
  expect(now.swings).toEqual([4.5, 0, 0, 1, -4.5, 0, 0, 0])
  expect(rideAt(ride, 0).swings).toEqual([])
  expect(rideAt(ride, 9).by[0]).toBe(3)
})
