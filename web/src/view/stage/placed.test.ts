// @vitest-environment happy-dom
import { Ray, Vector3 } from 'three'
import { expect, test } from 'vitest'
import type { GroundBuffer, MeshGroundBuffer } from '../../api/buffers'
import type { Overlay } from './overlay'
import { PlacedGrounds } from './placed'

const histogram = { low: 0, high: 1, areas_m2: [1] }

/** A level square of 20 by 20 m, of two triangles. */
const square = (): MeshGroundBuffer => ({
  vertices: 4, triangles: 2, low_m: [-10, 0, -10], high_m: [10, 0, 10], area_m2: 400, groups: [], slope: histogram, altitude: histogram,
  positions: new Float32Array([-10, 0, -10, -10, 0, 10, 10, 0, 10, 10, 0, -10]),
  normals: new Float32Array([0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0]),
  colours: new Uint8Array(16).fill(128), earths: new Uint8Array(16), slopes: new Float32Array([0, 10, 20, 30]), altitudes: new Float32Array(4),
  indices: new Uint32Array([0, 1, 2, 0, 2, 3]),
})

/** A level terrain of 8 by 8 m. */
const terrain = (): GroundBuffer => {
  const n = 5
  return {
    nx: n, nz: n, size_m: [8, 8], step: 1, low_m: 0, high_m: 1, water_m: null, slope: histogram, altitude: histogram,
    heights: new Float32Array(n * n), slopes: new Float32Array(n * n).fill(7), colours: new Uint8Array(n * n * 4), earths: new Uint8Array(n * n * 4),
  }
}

const down = (x: number, z: number) => new Ray(new Vector3(x, 100, z), new Vector3(0, -1, 0))
const place = (x_m: number, y_m = 0, turn_deg = 0) => ({ x_m, y_m, z_m: 0, turn_deg })
const over = (values: number[]): Overlay => ({ values: new Float32Array(values), low: 0, high: 100, scale: 'rising' })

test('what is laid over a mesh is told between its vertices, as the surface is', () => {
  const grounds = new PlacedGrounds()
  grounds.set(1, { kind: 'mesh', data: square() }, place(0))
  expect(grounds.pick(down(0, 0))).toMatchObject({ ground: 1, laid: null })
  grounds.lay(new Map([[1, over([0, 0, 40, 40])]]))
  // Values rise from west to east, slopes from vertex to vertex.
  const picked = grounds.pick(down(5, 5))!
  expect(picked.laid).toBeCloseTo(30, 4)
  expect(picked.slope).toBeCloseTo(15, 4)
  grounds.lay(new Map())
  expect(grounds.pick(down(5, 5))!.laid).toBeNull()
})

test('what is laid over a terrain beside the land is told where that stands, turned as it is', () => {
  const grounds = new PlacedGrounds()
  const data = terrain()
  grounds.set(2, { kind: 'terrain', data }, place(50, 3, 90))
  // Values rise towards its own east: a quarter turn clockwise makes that south.
  grounds.lay(new Map([[2, over([...data.heights].map((_, i) => (i % 5) * 10))]]))
  const at = (x: number, z: number) => grounds.pick(down(x, z))!
  expect(at(50, 0).y).toBeCloseTo(3, 2)
  expect([at(50, -2).laid, at(50, 0).laid, at(50, 2).laid].map((v) => Math.round(v!))).toEqual([10, 20, 30])
  expect(grounds.pick(down(60, 0))).toBeNull()
})

test('of two grounds the nearer is picked, and one that is taken out is gone', () => {
  const grounds = new PlacedGrounds()
  grounds.set(1, { kind: 'mesh', data: square() }, place(0))
  grounds.set(2, { kind: 'terrain', data: terrain() }, place(0, 5))
  expect(grounds.pick(down(1, 1))!.ground).toBe(2)
  grounds.set(2, null, place(0))
  expect(grounds.pick(down(1, 1))!.ground).toBe(1)
  expect(grounds.group.children).toHaveLength(1)
})

test('a ground that moves keeps what it is made of', () => {
  const grounds = new PlacedGrounds()
  const data = square()
  grounds.set(1, { kind: 'mesh', data }, place(0))
  const made = grounds.group.children[0]
  grounds.set(1, { kind: 'mesh', data }, place(30))
  expect(grounds.group.children).toEqual([made])
  expect(grounds.pick(down(0, 0))).toBeNull()
  expect(grounds.pick(down(30, 0))).not.toBeNull()
  const { middle, reach } = grounds.extent()!
  expect([middle.x, Math.round(reach)]).toEqual([30, 14])
})

test('a terrain that is sculpted keeps its mesh, and a ring finds its new height', () => {
  const grounds = new PlacedGrounds()
  const data = terrain()
  grounds.set(2, { kind: 'terrain', data }, place(50, 3))
  const [made] = grounds.group.children
  const raised = { ...terrain(), low_m: 2, high_m: 3, heights: data.heights.map((h) => h + 2) }
  grounds.set(2, { kind: 'terrain', data: raised }, place(50, 3))
  expect(grounds.group.children).toEqual([made])
  expect(grounds.pick(down(50, 0))!.y).toBeCloseTo(5, 2)
  expect(grounds.heightOn(2, 51, 1, 0)).toBeCloseTo(5, 4)
  expect(grounds.heightOn(2, 80, 1, 0)).toBeNull()
  expect(grounds.pick(down(50, 0), 1)).toBeNull()
})
