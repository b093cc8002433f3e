import { Reader } from './reader'

/** The mean wind over the land, as `rookery-formats/src/view/flow.rs` writes it. */
export interface FlowBuffer {
  /** Middle of the first cell, x and z, metres. */
  first: [number, number]
  /** From one cell to the next on the plan, metres. */
  step: number
  /** Cells along x and z. */
  cells: [number, number]
  /** Middles of the cells' heights, metres. */
  heights: number[]
  /** The wind against that over level ground, x and z; x fastest, then height, then z. */
  ratio: Float32Array
  /** Height of the ground under the middle of each column, metres. */
  ground: Float32Array
}

export function decodeFlow(buffer: ArrayBuffer): FlowBuffer {
  const reader = new Reader(buffer, 'RKFL')
  const head = reader.head as unknown as FlowBuffer
  const columns = head.cells[0] * head.cells[1]
  return { ...head, ratio: reader.f32(columns * head.heights.length * 2), ground: reader.f32(columns) }
}

/** A value of each column between the middles of four, level beyond the last. */
export function between({ first, step, cells: [nx, nz] }: FlowBuffer, x: number, z: number, of: (column: number) => number): number {
  const along = (v: number, from: number, count: number) => {
    const t = Math.min(Math.max((v - from) / step, 0), count - 1)
    const i = Math.min(Math.floor(t), count - 2)
    return [i, t - i] as const
  }
  const [i, fx] = along(x, first[0], nx)
  const [k, fz] = along(z, first[1], nz)
  const at = (a: number, b: number) => of((k + b) * nx + i + a)
  return (at(0, 0) * (1 - fx) + at(1, 0) * fx) * (1 - fz) + (at(0, 1) * (1 - fx) + at(1, 1) * fx) * fz
}

/** The wind so high above the ground at a place of the plan, against that over level ground: x and z. */
export function flowOver(flow: FlowBuffer, x: number, z: number, above: number): [number, number] {
  return flowAt(flow, x, between(flow, x, z, (c) => flow.ground[c]) + above, z)
}

/** The same at a place of the scene. */
export function flowAt(flow: FlowBuffer, x: number, y: number, z: number): [number, number] {
  const { heights, cells, ratio } = flow
  let [k, g] = [0, 0]
  for (let n = 0; n < heights.length - 1; n++)
    if (y >= heights[n]) [k, g] = [n, Math.min((y - heights[n]) / (heights[n + 1] - heights[n]), 1)]
  const cell = (c: number, level: number, axis: number) => {
    const [i, j] = [c % cells[0], Math.floor(c / cells[0])]
    return ratio[((j * heights.length + level) * cells[0] + i) * 2 + axis]
  }
  return [0, 1].map((axis) => between(flow, x, z, (c) => cell(c, k, axis) * (1 - g) + cell(c, k + 1, axis) * g)) as [number, number]
}
