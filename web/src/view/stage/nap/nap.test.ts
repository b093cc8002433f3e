import { PerspectiveCamera } from 'three'
import { describe, expect, test, vi } from 'vitest'
import type { MeshBuffer, NapBuffer } from '../../../api/buffers'
import { REACH_M, detailAt, sizeAt, tilesAbout } from './distances'
import { Nap } from './nap'
import { NapTiles } from './tiles'

const form = (triangles: number): MeshBuffer => ({
  vertices: 3, triangles, positions: new Float32Array(9), normals: new Float32Array(9), colours: new Float32Array(9), light: new Uint8Array(12), indices: new Uint32Array(triangles * 3),
})
/** Five kinds of four forms of three details. */
const FORMS = Array.from({ length: 60 }, (_, i) => form([90, 30, 10][i % 3]))

/** Tufts in a row to the north, a metre apart. */
function row(count: number, rank = 0): NapBuffer {
  return {
    count, positions: Float32Array.from({ length: count * 3 }, (_, i) => (i % 3 === 2 ? -Math.floor(i / 3) - 0.5 : 0)), sizes: new Float32Array(count).fill(1),
    rotations: new Int16Array(count * 4), colours: new Uint8Array(count * 4).fill(rank), what: new Uint8Array(count * 4),
  }
}

function north() {
  const camera = new PerspectiveCamera(50, 1.6, 0.1, 1000)
  camera.updateMatrixWorld()
  return camera
}

describe('how far it is seen', () => {
  test('all of it near by, none beyond its reach, the last of a rank first', () => {
    for (const rank of [0, 0.5, 0.99]) expect(sizeAt(rank, 5)).toBeCloseTo(Math.min(1, (1 - rank) * 8))
    expect(sizeAt(0, REACH_M)).toBe(0)
    expect(sizeAt(0.5, 25)).toBe(0)
    expect(sizeAt(0.05, 25)).toBe(1)
    expect([1, 8, 30].map(detailAt)).toEqual([0, 1, 2])
  })

  test('squares within reach', () => {
    const all = tilesAbout(8, 8)
    expect(all).toContainEqual([0, 0])
    expect(all).toContainEqual([-2, 0])
    expect(all).toContainEqual([2, 2])
    expect(all).toHaveLength(25)
    // From the corner of four squares the farthest corners are too far.
    expect(tilesAbout(0, 0)).not.toContainEqual([2, 2])
  })
})

describe('the nap in the picture', () => {
  test('holds what is in sight and in reach, finer near by', () => {
    const nap = new Nap()
    nap.set(FORMS, [row(60)])
    const triangles = nap.choose(north(), Infinity, false)
    expect(nap.drawn).toBe(40)
    expect(triangles).toBe(4 * 90 + 8 * 30 + 28 * 10)
    // Nothing behind the eye.
    const south = north()
    south.rotation.y = Math.PI
    south.updateMatrixWorld()
    nap.choose(south, Infinity, false)
    expect(nap.drawn).toBeLessThan(2)
  })

  test('is drawn closer about the eye where there is less time, and lightly in a movement', () => {
    const nap = new Nap()
    nap.set(FORMS, [row(60)])
    const camera = north()
    expect(nap.choose(camera, Infinity, true)).toBe(400)
    // A quarter of them lies within half the distance on a plan; in this row it is half of them.
    expect(nap.choose(camera, 100, true)).toBe(200)
  })

  test('is cut into parts that hold all of it once', () => {
    const nap = new Nap()
    nap.set(FORMS, [row(60)])
    nap.choose(north(), Infinity, true)
    const parts = nap.parts(95)
    expect(parts).toEqual([[0, 10], [10, 20], [20, 30], [30, 40]])
    nap.fill(10, 20)
    expect(nap.group.children.filter((o) => o.visible)).toHaveLength(1)
  })
})

describe('squares about the eye', () => {
  test('are fetched once, and told when all are there', async () => {
    const ready = vi.fn()
    const square = vi.fn(async () => row(1))
    const tiles = new NapTiles(ready)
    tiles.set({ key: 'a', forms: FORMS, square })
    tiles.want(8, 8)
    tiles.want(8, 8)
    await vi.waitFor(() => expect(ready).toHaveBeenCalledTimes(1))
    expect(square).toHaveBeenCalledTimes(25)
    tiles.want(8 + 16, 8)
    await vi.waitFor(() => expect(ready).toHaveBeenCalledTimes(2))
    expect(square).toHaveBeenCalledTimes(25 + 5)
    expect(ready.mock.lastCall![1]).toHaveLength(25)
  })

  test('of another ground are others; what does not come is left out', async () => {
    const ready = vi.fn()
    const tiles = new NapTiles(ready)
    tiles.set({ key: 'a', forms: FORMS, square: async () => row(1) })
    tiles.want(8, 8)
    const square = vi.fn(async (x: number) => (x === 0 ? Promise.reject(new Error('gone')) : row(2)))
    tiles.set({ key: 'b', forms: FORMS, square })
    tiles.want(8, 8)
    await vi.waitFor(() => expect(ready).toHaveBeenCalledTimes(1))
    expect(square).toHaveBeenCalledTimes(25)
    expect(ready.mock.lastCall![1]).toHaveLength(20)
  })
})
