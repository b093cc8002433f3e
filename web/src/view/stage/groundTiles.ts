import { BufferAttribute, BufferGeometry, LOD, Mesh, type Material } from 'three'
import type { GroundBuffer } from '../../api/buffers'

/** Cells along a tile. Every level divides it, so that tiles meet in the same places. */
const TILE = 32
const LEVELS = [1, 2, 4, 8]
/** A level is taken from this many of the ground's cells away. */
const FROM_CELLS = [0, 48, 110, 240]

/** The normal of the ground at a sample, from the slopes to its neighbours, written at `at`. */
export function sampleNormal(g: GroundBuffer, sample: number, out: Float32Array, at: number) {
  const { nx, nz, heights } = g
  const [column, row] = [sample % nx, Math.floor(sample / nx)]
  const [west, east] = [Math.max(column - 1, 0), Math.min(column + 1, nx - 1)]
  const [north, south] = [Math.max(row - 1, 0), Math.min(row + 1, nz - 1)]
  const sx = ((heights[row * nx + east] - heights[row * nx + west]) / (east - west)) * ((nx - 1) / g.size_m[0])
  const sz = ((heights[south * nx + column] - heights[north * nx + column]) / (south - north)) * ((nz - 1) / g.size_m[1])
  const length = Math.hypot(sx, 1, sz)
  out[at] = -sx / length
  out[at + 1] = 1 / length
  out[at + 2] = -sz / length
}

/** Square tiles of the ground, coarser the farther they are. `finer` stretches the distances. */
export function makeTiles(g: GroundBuffer, material: Material, finer: number): LOD[] {
  const cell = Math.max(g.size_m[0] / (g.nx - 1), g.size_m[1] / (g.nz - 1))
  const tiles: LOD[] = []
  for (let row = 0; row < g.nz - 1; row += TILE) {
    for (let column = 0; column < g.nx - 1; column += TILE) {
      const tile = new LOD()
      const [x, z] = placeOf(g, Math.min(column + TILE / 2, g.nx - 1), Math.min(row + TILE / 2, g.nz - 1))
      tile.position.set(x, 0, z)
      LEVELS.forEach((step, level) => {
        // Drawn after what stands on it: what that hides is not worked out.
        const mesh = new Mesh(tileGeometry(g, column, row, step), material)
        mesh.renderOrder = 1
        mesh.position.set(-x, 0, -z)
        tile.addLevel(mesh, FROM_CELLS[level] * cell * finer)
      })
      tiles.push(tile)
    }
  }
  return tiles
}

function placeOf(g: GroundBuffer, column: number, row: number): [number, number] {
  return [(column / (g.nx - 1) - 0.5) * g.size_m[0], (row / (g.nz - 1) - 0.5) * g.size_m[1]]
}

/** Every `step`th sample of a span, and its last. */
function steps(from: number, last: number, step: number): number[] {
  const out: number[] = []
  for (let i = from; i < last; i += step) out.push(i)
  out.push(last)
  return out
}

/** One tile at one level, with a short curtain around it that hides the seams between levels. */
function tileGeometry(g: GroundBuffer, column: number, row: number, step: number): BufferGeometry {
  const columns = steps(column, Math.min(column + TILE, g.nx - 1), step)
  const rows = steps(row, Math.min(row + TILE, g.nz - 1), step)
  const [w, h] = [columns.length, rows.length]
  const samples: number[] = []
  for (const r of rows) for (const c of columns) samples.push(r * g.nx + c)
  const index: number[] = []
  for (let r = 0; r < h - 1; r++) {
    for (let c = 0; c < w - 1; c++) {
      const nw = r * w + c
      index.push(nw, nw + w + 1, nw + 1, nw, nw + w, nw + w + 1)
    }
  }
  const ring: number[] = []
  for (let c = 0; c < w; c++) ring.push(c)
  for (let r = 1; r < h; r++) ring.push(r * w + w - 1)
  for (let c = w - 2; c >= 0; c--) ring.push((h - 1) * w + c)
  for (let r = h - 2; r >= 0; r--) ring.push(r * w)
  const surface = samples.length
  const alongEdge = (a: number, b: number) => {
    const [ca, cb, ra, rb] = [a % g.nx, b % g.nx, Math.floor(a / g.nx), Math.floor(b / g.nx)]
    const onEdge = (i: number, j: number, n: number) => i === j && (i === 0 || i === n - 1)
    return onEdge(ca, cb, g.nx) || onEdge(ra, rb, g.nz)
  }
  ring.forEach((at, i) => {
    samples.push(samples[at])
    const next = ring[i + 1]
    // Along the edge of the ground there is no seam to hide.
    if (next !== undefined && !alongEdge(samples[at], samples[next])) index.push(at, next, surface + i, surface + i, next, surface + i + 1)
  })
  const out = new BufferGeometry()
  out.setAttribute('position', new BufferAttribute(new Float32Array(samples.length * 3), 3))
  out.setAttribute('normal', new BufferAttribute(new Float32Array(samples.length * 3), 3))
  out.setAttribute('aColour', new BufferAttribute(new Float32Array(samples.length * 3), 3))
  out.setAttribute('aEarths', new BufferAttribute(new Uint8Array(samples.length * 4), 4, true))
  out.setIndex(new BufferAttribute(new Uint16Array(index), 1))
  const depth = (step === 1 ? 0.4 : step * 0.8) * (g.size_m[0] / (g.nx - 1))
  const tile: Tile = { samples: Uint32Array.from(samples), surface, depth }
  out.userData.tile = tile
  write(out, g)
  return out
}

interface Tile {
  /** The ground's sample at each vertex. */
  samples: Uint32Array
  /** Vertices before the curtain. */
  surface: number
  /** How far the curtain hangs, metres. */
  depth: number
}

/** How far down the block of ground goes: a little under its lowest point. */
export const bottomOf = (g: Pick<GroundBuffer, 'low_m' | 'high_m'>) => g.low_m - 0.04 * Math.max(g.high_m - g.low_m, 10)

/** Puts the ground's heights, normals and colours into a tile. */
function write(geometry: BufferGeometry, g: GroundBuffer) {
  const { samples, surface, depth } = geometry.userData.tile as Tile
  const array = (name: string) => geometry.getAttribute(name).array as Float32Array
  const [positions, normals, colours] = [array('position'), array('normal'), array('aColour')]
  const earths = geometry.getAttribute('aEarths').array
  const bottom = bottomOf(g)
  for (let i = 0; i < samples.length; i++) {
    const sample = samples[i]
    const at = i * 3
    positions[at] = ((sample % g.nx) / (g.nx - 1) - 0.5) * g.size_m[0]
    // No curtain hangs out of the bottom of the block.
    positions[at + 1] = i < surface ? g.heights[sample] : Math.max(g.heights[sample] - depth, bottom)
    positions[at + 2] = (Math.floor(sample / g.nx) / (g.nz - 1) - 0.5) * g.size_m[1]
    sampleNormal(g, sample, normals, at)
    for (let c = 0; c < 3; c++) colours[at + c] = g.colours[sample * 4 + c] / 255
    for (let c = 0; c < 4; c++) earths[i * 4 + c] = g.earths[sample * 4 + c]
  }
  for (const name of ['position', 'normal', 'aColour', 'aEarths']) geometry.getAttribute(name).needsUpdate = true
  geometry.computeBoundingSphere()
}

/** Whether two lists of four bytes a sample have the same at one. */
function alike(a: Uint8Array, b: Uint8Array, sample: number): boolean {
  const at = sample * 4
  return a[at] === b[at] && a[at + 1] === b[at + 1] && a[at + 2] === b[at + 2] && a[at + 3] === b[at + 3]
}

/** Rewrites the tiles in which two grounds of one shape differ; gives how many did. */
export function followTiles(tiles: LOD[], was: GroundBuffer, now: GroundBuffer): number {
  const across = Math.ceil((now.nx - 1) / TILE)
  const touched = new Set<number>()
  for (let i = 0; i < now.heights.length; i++) {
    if (was.heights[i] === now.heights[i] && alike(was.colours, now.colours, i) && alike(was.earths, now.earths, i)) continue
    // A sample on a seam belongs to both tiles, and its height turns the normals of its neighbours.
    const [column, row] = [i % now.nx, Math.floor(i / now.nx)]
    for (let c = column - 1; c <= column + 1; c++) {
      for (let r = row - 1; r <= row + 1; r++) {
        for (const tc of [Math.floor((c - 1) / TILE), Math.floor(c / TILE)]) {
          for (const tr of [Math.floor((r - 1) / TILE), Math.floor(r / TILE)]) {
            if (tc >= 0 && tr >= 0 && tc < across) touched.add(tr * across + tc)
          }
        }
      }
    }
  }
  for (const tile of touched) for (const level of tiles[tile]?.levels ?? []) write((level.object as Mesh).geometry, now)
  return touched.size
}
