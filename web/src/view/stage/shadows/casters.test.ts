import { DataTexture, Vector3, type Mesh, type Points } from 'three'
import { expect, test } from 'vitest'
import type { PlantsBuffer } from '../../../api/buffers'
import { PlantLayer } from '../plantLayer'
import { sampleLook } from '../sample'
import { PlantCasters } from './casters'
import { ShadowMap } from './maps'

/** A square field of plants 0.6 m high, a metre apart. */
function field(side: number): PlantsBuffer {
  const count = side * side
  const positions = new Float32Array(count * 3)
  for (let i = 0; i < count; i++) {
    positions[i * 3] = (i % side) - side / 2
    positions[i * 3 + 2] = Math.floor(i / side) - side / 2
  }
  return {
    count, tally: {} as PlantsBuffer['tally'], positions, sizes: new Float32Array(count).fill(1),
    rotations: new Int16Array(count * 4), forms: new Uint16Array(count), tints: new Uint16Array(count),
  }
}

function cast(reach: number, mostTriangles = 1e9) {
  const layer = new PlantLayer(sampleLook(1, 0.6))
  layer.set(field(200))
  const map = new ShadowMap(0)
  map.lay(new Vector3(), reach)
  let seen = { shaped: 0, rounds: 0 }
  layer.cast(map, false, mostTriangles, () => {
    const shown = layer.casters.group.children
    const shaped = shown.filter((o): o is Mesh => 'isMesh' in o && o.visible).reduce((sum, m) => sum + (m.geometry as unknown as { instanceCount: number }).instanceCount, 0)
    const dots = shown.find((o): o is Points => 'isPoints' in o)!
    seen = { shaped, rounds: dots.visible ? dots.geometry.groups.reduce((sum, g) => sum + g.count, 0) : 0 }
  })
  return seen
}

test('near by plants cast with their shapes, and only those that the map can show', () => {
  const { shaped, rounds } = cast(8)
  expect(rounds).toBe(0)
  expect(shaped).toBeGreaterThan(16 * 16)
  expect(shaped).toBeLessThan(200 * 200 / 4)
})

test('far off they cast as rounds, and no plant is touched', () => {
  const { shaped, rounds } = cast(80)
  expect(shaped).toBe(0)
  expect(rounds).toBeGreaterThan(160 * 160 * 0.9)
})

test('what is smaller than the map can show casts nothing', () => {
  expect(cast(2000)).toEqual({ shaped: 0, rounds: 0 })
})

test('dots that are seen stay as they were when the same dots have cast', () => {
  const look = sampleLook(1, 0.6)
  const layer = new PlantLayer(look)
  layer.set(field(200))
  const far = layer.group.children[1] as Points
  const map = new ShadowMap(1)
  map.lay(new Vector3(), 80)
  layer.cast(map, false, 0, () => {})
  expect(far.geometry.groups).toHaveLength(0)
})

test('stones cast as what they are', () => {
  const look = sampleLook(1, 0.6)
  const stone = { ...look, species: { ...look.species, thin: false } }
  const casters = new PlantCasters(stone, stone.cards.map(() => new DataTexture()))
  const layer = new PlantLayer(stone)
  layer.set(field(10))
  const map = new ShadowMap(1)
  map.lay(new Vector3(), 8)
  casters.cast(map, layer.blocks, layer.plants!, { cast: (_b: unknown, _w: unknown, _p: unknown, draw: () => void) => draw() } as never, 0, () => {})
  const shown = casters.group.children.filter((o): o is Mesh => 'isMesh' in o && o.visible)
  expect(shown).toHaveLength(1)
  expect(shown[0].geometry.getAttribute('position').count).toBe(stone.meshes[2][0].vertices)
})
