import { MeshBasicMaterial, type BufferGeometry, type Mesh } from 'three'
import { expect, test } from 'vitest'
import type { GroundBuffer } from '../../api/buffers'
import { bottomOf, followTiles, makeTiles, sampleNormal } from './groundTiles'

function ramp(nx: number, nz: number): GroundBuffer {
  const histogram = { low: 0, high: 1, areas_m2: [] }
  const heights = new Float32Array(nx * nz).map((_, i) => (i % nx) * 0.5)
  return {
    nx, nz, size_m: [nx - 1, nz - 1], step: 1, low_m: 0, high_m: nx / 2, water_m: null, slope: histogram, altitude: histogram,
    heights, slopes: new Float32Array(nx * nz), colours: new Uint8Array(nx * nz * 4), earths: new Uint8Array(nx * nz * 4),
  }
}

/** Area of the tile seen from above, its curtain not counted. */
function planArea(geometry: BufferGeometry): number {
  const p = geometry.getAttribute('position').array
  const index = geometry.index!.array
  let sum = 0
  for (let i = 0; i < index.length; i += 3) {
    const [a, b, c] = [index[i] * 3, index[i + 1] * 3, index[i + 2] * 3]
    sum += Math.abs((p[b] - p[a]) * (p[c + 2] - p[a + 2]) - (p[c] - p[a]) * (p[b + 2] - p[a + 2])) / 2
  }
  return sum
}

test('the tiles of every level cover the whole plan once', () => {
  const tiles = makeTiles(ramp(71, 50), new MeshBasicMaterial(), 1)
  expect(tiles).toHaveLength(3 * 2)
  for (let level = 0; level < 4; level++) {
    const whole = tiles.reduce((sum, t) => sum + planArea((t.levels[level].object as Mesh).geometry), 0)
    expect(whole).toBeCloseTo(70 * 49, 2)
  }
})

test('a plane keeps its one normal and its heights at every level', () => {
  const g = ramp(40, 40)
  const normal = new Float32Array(3)
  for (let i = 0; i < g.heights.length; i++) {
    sampleNormal(g, i, normal, 0)
    expect(normal[0]).toBeCloseTo(-0.5 / Math.hypot(0.5, 1), 5)
  }
  for (const tile of makeTiles(g, new MeshBasicMaterial(), 1)) {
    for (const { object } of tile.levels) {
      const p = (object as Mesh).geometry.getAttribute('position')
      // The curtain hangs below; nothing stands above.
      for (let i = 0; i < p.count; i++) expect(p.getY(i)).toBeLessThanOrEqual((p.getX(i) + 19.5) * 0.5 + 1e-4)
    }
  }
})

/** Broke: curtains of coarse tiles hung out under the block as green spikes. */
test('no curtain hangs out of the bottom of the block', () => {
  const g = ramp(129, 129)
  for (const tile of makeTiles(g, new MeshBasicMaterial(), 1)) {
    for (const { object } of tile.levels) {
      const p = (object as Mesh).geometry.getAttribute('position')
      for (let i = 0; i < p.count; i++) expect(p.getY(i)).toBeGreaterThanOrEqual(Math.fround(bottomOf(g)))
    }
  }
})

test('a ground that changed in places is the same as one made anew, and only its tiles are rewritten', () => {
  const was = ramp(131, 99)
  const now = { ...was, heights: was.heights.slice(), colours: was.colours.slice(), earths: was.earths.slice() }
  for (const i of [40 * 131 + 64, 40 * 131 + 65, 70 * 131 + 10]) now.heights[i] += 3
  now.colours[4 * (5 * 131 + 125)] = 200
  now.earths[4 * (90 * 131 + 5) + 2] = 40
  const followed = makeTiles(was, new MeshBasicMaterial(), 1)
  const anew = makeTiles(now, new MeshBasicMaterial(), 1)
  const rewritten = followTiles(followed, was, now)
  expect(rewritten).toBeGreaterThan(2)
  expect(rewritten).toBeLessThan(9)
  followed.forEach((tile, t) =>
    tile.levels.forEach(({ object }, l) => {
      for (const name of ['position', 'normal', 'aColour', 'aEarths']) {
        const array = (o: unknown) => (o as Mesh).geometry.getAttribute(name).array
        expect(array(object)).toEqual(array(anew[t].levels[l].object))
      }
    }),
  )
})
