import { BufferAttribute, BufferGeometry, LOD, Mesh, type Material } from 'three'
import type { GroundBuffer } from '../../api/buffers'

/** Cells along a tile. Every level divides it, so that tiles meet in the same places. */
const TILE = 32
const LEVELS = [1, 2, 4, 8]
/** A level is taken from this many of the ground's cells away. */
const FROM_CELLS = [0, 48, 110, 240]

/** Normals of the ground at its samples, from the slopes to the neighbours. */
export function sampleNormals(g: GroundBuffer): Float32Array {
  const { nx, nz, heights } = g
  const [dx, dz] = [g.size_m[0] / (nx - 1), g.size_m[1] / (nz - 1)]
  const normals = new Float32Array(nx * nz * 3)
  for (let row = 0; row < nz; row++) {
    for (let column = 0; column < nx; column++) {
      const [west, east] = [Math.max(column - 1, 0), Math.min(column + 1, nx - 1)]
      const [north, south] = [Math.max(row - 1, 0), Math.min(row + 1, nz - 1)]
      const sx = (heights[row * nx + east] - heights[row * nx + west]) / ((east - west) * dx)
      const sz = (heights[south * nx + column] - heights[north * nx + column]) / ((south - north) * dz)
      const length = Math.hypot(sx, 1, sz)
      const i = (row * nx + column) * 3
      normals[i] = -sx / length
      normals[i + 1] = 1 / length
      normals[i + 2] = -sz / length
    }
  }
  return normals
}

/** Square tiles of the ground, coarser the farther they are. `finer` stretches the distances. */
export function makeTiles(g: GroundBuffer, material: Material, finer: number): LOD[] {
  const normals = sampleNormals(g)
  const cell = Math.max(g.size_m[0] / (g.nx - 1), g.size_m[1] / (g.nz - 1))
  const tiles: LOD[] = []
  for (let row = 0; row < g.nz - 1; row += TILE) {
    for (let column = 0; column < g.nx - 1; column += TILE) {
      const tile = new LOD()
      const [x, z] = placeOf(g, Math.min(column + TILE / 2, g.nx - 1), Math.min(row + TILE / 2, g.nz - 1))
      tile.position.set(x, 0, z)
      LEVELS.forEach((step, level) => {
        const mesh = new Mesh(tileGeometry(g, normals, column, row, step), material)
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
function tileGeometry(g: GroundBuffer, normals: Float32Array, column: number, row: number, step: number): BufferGeometry {
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
  const depth = step === 1 ? 0.4 : step * 0.8
  const cell = g.size_m[0] / (g.nx - 1)
  const positions = new Float32Array(samples.length * 3)
  const normal = new Float32Array(samples.length * 3)
  const colours = new Float32Array(samples.length * 3)
  for (let i = 0; i < samples.length; i++) {
    const sample = samples[i]
    const at = i * 3
    positions[at] = ((sample % g.nx) / (g.nx - 1) - 0.5) * g.size_m[0]
    positions[at + 1] = g.heights[sample] - (i < surface ? 0 : depth * cell)
    positions[at + 2] = (Math.floor(sample / g.nx) / (g.nz - 1) - 0.5) * g.size_m[1]
    for (let c = 0; c < 3; c++) {
      normal[at + c] = normals[sample * 3 + c]
      colours[at + c] = g.colours[sample * 4 + c] / 255
    }
  }
  const out = new BufferGeometry()
  out.setAttribute('position', new BufferAttribute(positions, 3))
  out.setAttribute('normal', new BufferAttribute(normal, 3))
  out.setAttribute('aColour', new BufferAttribute(colours, 3))
  out.setIndex(new BufferAttribute(new Uint16Array(index), 1))
  return out
}
