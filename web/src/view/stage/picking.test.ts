import { OrthographicCamera, PerspectiveCamera, Vector3, type Camera } from 'three'
import { expect, test } from 'vitest'
import type { GroundBuffer } from '../../api/buffers'
import { pick, pickLevel, projector, ringOnGround, type Looked } from './picking'

const size = { width: 1200, height: 800 }

/** A slope of 40 by 40 m that rises towards the north, a metre for every two. */
function slope(): GroundBuffer {
  const n = 21
  const heights = new Float32Array(n * n)
  for (let z = 0; z < n; z++) for (let x = 0; x < n; x++) heights[z * n + x] = (20 - z * 2) / 2 + 10
  const histogram = { low: 0, high: 1, areas_m2: [1] }
  return {
    nx: n, nz: n, size_m: [40, 40], step: 1, low_m: 0, high_m: 20, water_m: null, slope: histogram, altitude: histogram, heights,
    slopes: new Float32Array(n * n).fill(26.565), colours: new Uint8Array(n * n * 4), earths: new Uint8Array(n * n * 4),
  }
}

function above(): Camera {
  const camera = new PerspectiveCamera(50, 1.5, 0.1, 500)
  camera.position.set(3, 60, 35)
  camera.lookAt(1, 10, 2)
  camera.updateMatrixWorld()
  return camera
}

function plan(): Camera {
  const camera = new OrthographicCamera(-30, 30, 20, -20, -6000, 6000)
  camera.position.set(0, 3000, 0)
  camera.up.set(0, 0, -1)
  camera.lookAt(0, 0, 0)
  camera.updateMatrixWorld()
  return camera
}

const looked = (camera: Camera, placed: Looked['placed'] = { pick: () => null, heightOn: () => null }): Looked => ({ camera, size, ground: slope(), land: true, placed })

test.each([['in perspective', above()], ['in plan', plan()]])('what is picked %s is seen at the pixel it was picked at', (_, camera) => {
  const project = projector(looked(camera))
  let found = 0
  for (const at of [{ x: 600, y: 400 }, { x: 520, y: 310 }, { x: 700, y: 450 }]) {
    const point = pick(looked(camera), at)
    if (!point) continue
    found++
    // On the slope: a metre for every two.
    expect(point.y).toBeCloseTo(10 - point.z / 2, 2)
    expect(point.slope).toBeCloseTo(26.565, 2)
    const seen = project(point)!
    expect(seen.x).toBeCloseTo(at.x, 0)
    expect(seen.y).toBeCloseTo(at.y, 0)
  }
  expect(found).toBe(3)
})

test('a pixel is where three.js projects the point', () => {
  const camera = above()
  const project = projector(looked(camera))
  for (const p of [new Vector3(2, 9, -4), new Vector3(-8, 15, 11)]) {
    const v = p.clone().project(camera)
    expect(project(p)!.x).toBeCloseTo(((v.x + 1) / 2) * size.width, 3)
    expect(project(p)!.y).toBeCloseTo(((1 - v.y) / 2) * size.height, 3)
  }
  expect(project(new Vector3(3, 90, 80))).toBeNull()
})

test('what lies before the land is picked first, and never where the land alone is wanted', () => {
  const beside = { x: 0, y: 30, z: 0, ground: 7, slope: 0, away: 1 }
  const near = looked(above(), { pick: () => beside as never, heightOn: () => null })
  const far = looked(above(), { pick: () => ({ ...beside, away: 1e6 }) as never, heightOn: () => null })
  expect(pick(near, { x: 600, y: 400 })!.ground).toBe(7)
  expect(pick(far, { x: 600, y: 400 })!.ground).toBe(0)
  expect(pick(near, { x: 600, y: 400 }, 0)!.ground).toBe(0)
  expect(pick({ ...near, ground: null }, { x: 600, y: 400 })).toBeNull()
})

test('a level is met where the ray comes down to it, and not above the eye', () => {
  const at = pickLevel(looked(above()), { x: 600, y: 400 }, 5)!
  expect(at.y).toBe(5)
  expect(pickLevel(looked(above()), { x: 600, y: 400 }, 80)).toBeNull()
})

test('a ring goes round once, and leaves a gap where there is no ground', () => {
  const whole = ringOnGround(looked(above()), { x: 0, y: 0, z: 0 }, 5, 24)
  expect(whole.match(/M/g)).toHaveLength(1)
  expect(whole.match(/L/g)).toHaveLength(24)
  const cut = ringOnGround(looked(above()), { x: 18, y: 0, z: 0 }, 5, 24)
  expect(cut.match(/[ML]/g)!.length).toBeLessThan(24)
})

test('on a ground beside the land a ring lies as high as that ground', () => {
  const heightOn = (id: number, x: number, z: number, level: number) => (id === 7 && Math.hypot(x, z) < 6 ? level : null)
  const at = looked(above(), { pick: () => null, heightOn })
  const ring = ringOnGround(at, { x: 0, y: 25, z: 0, ground: 7 }, 5, 24)
  expect(ring.match(/L/g)).toHaveLength(24)
  const first = projector(at)({ x: 5, y: 25, z: 0 })!
  expect(ring.startsWith(`M${first.x.toFixed(1)},${first.y.toFixed(1)}`)).toBe(true)
  expect(ringOnGround(at, { x: 0, y: 25, z: 0, ground: 8 }, 5, 24)).toBe('')
})
