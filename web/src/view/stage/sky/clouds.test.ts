import { Vector3 } from 'three'
import { expect, test } from 'vitest'
import { sunDirection } from '../light'
import { SIDE, TILE_M, cloudLook, cloudUniforms, cloudedOnTheWhole, driftClouds, setBillows, setClouds } from './clouds'
import { ambient, lightOn, makeSky, radiance } from './sky'

const sun = sunDirection(236, 34)
const sky = makeSky(sun, 0.1)
const look = cloudLook(sky, new Vector3(2.4, 2.2, 1.8))

test('clouds are whiter than the sky they are before, and shade the land', () => {
  const zenith = radiance(sky, new Vector3(0, 1, 0))
  const clouded = cloudedOnTheWhole(zenith.clone(), 0.8, look)
  expect(clouded.x / clouded.z).toBeGreaterThan(zenith.x / zenith.z)
  const up = new Vector3(0, 1, 0)
  const level = (share: number) => lightOn(ambient(sky, new Vector3(2.4, 2.2, 1.8), { share, look }), up)
  // More light from above, less from below, where the land lies in shadow.
  expect(level(0.8).x).toBeGreaterThan(level(0).x)
  expect(level(0)).toEqual(lightOn(ambient(sky, new Vector3(2.4, 2.2, 1.8)), up))
})

test('they drift with time, and an hour is as exact as a second', () => {
  setClouds(0.4, look)
  driftClouds([10, -4], 3600)
  const { x, y, z } = cloudUniforms.uClouds.value
  expect([x, y, z]).toEqual([0.4, 36_000 % TILE_M, -14_400 % TILE_M])
  setClouds(0, look)
  driftClouds([0, 0], 0)
})

test('a table of another size is refused', () => {
  expect(() => setBillows(new Uint8Array(12))).toThrow('size')
  setBillows(new Uint8Array(SIDE * SIDE))
  expect(cloudUniforms.uBillows.value.image.width).toBe(SIDE)
})
