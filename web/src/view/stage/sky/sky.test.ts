import { Vector3 } from 'three'
import { expect, test } from 'vitest'
import { sunDirection } from '../light'
import { CHECKS } from './model'
import { ambient, lightOn, makeSky, radiance } from './sky'

test('the sky is that of the stills', () => {
  for (const [elevation, overcast, x, y, z, r, g, b] of CHECKS) {
    const got = radiance(makeSky(sunDirection(236, elevation), overcast), new Vector3(x, y, z)).toArray()
    for (const [k, c] of [r, g, b].entries()) expect(Math.abs(got[k] - c)).toBeLessThan(0.004 * Math.max(r, g, b))
  }
})

test('light on a surface by nine colours is that of the whole sky within a few parts in a hundred', () => {
  const sun = sunDirection(236, 34)
  const sky = makeSky(sun, 0.1)
  const sunLight = new Vector3(2.9, 2.6, 2.1)
  const all = ambient(sky, sunLight)
  // By brute force: a lower half that sends back what the land sends back, taken from straight below.
  const below = lightOn(all, new Vector3(0, -1, 0))
  for (const n of [new Vector3(0, 1, 0), new Vector3(0.7, 0.5, 0.2).normalize(), new Vector3(-0.8, 0.1, 0.5).normalize()]) {
    const sum = new Vector3()
    const many = 40_000
    for (let i = 0; i < many; i++) {
      const y = 1 - (2 * (i + 0.5)) / many
      const turn = i * 2.399963
      const d = new Vector3(Math.cos(turn) * Math.sqrt(1 - y * y), y, Math.sin(turn) * Math.sqrt(1 - y * y))
      const cos = d.dot(n)
      if (cos > 0) sum.addScaledVector(y > 0 ? radiance(sky, d) : below, (cos * 4) / many)
    }
    const got = lightOn(all, n)
    for (const k of ['x', 'y', 'z'] as const) expect(Math.abs(got[k] - sum[k]) / sum[k]).toBeLessThan(0.09)
  }
})

test('an overcast sky lights all sides alike, and its top most', () => {
  const all = ambient(makeSky(sunDirection(100, 30), 1), new Vector3())
  const [top, north, east, below] = [[0, 1, 0], [0, 0, -1], [1, 0, 0], [0, -1, 0]].map(([x, y, z]) => lightOn(all, new Vector3(x, y, z)).y)
  expect(Math.abs(north - east) / north).toBeLessThan(0.01)
  expect(top).toBeGreaterThan(north)
  expect(north).toBeGreaterThan(below)
})
