import type { GroundBuffer } from '../../api/buffers'
import { heightAt } from './grid'

/** How far a line floats over the ground, so that it is not lost in it, metres. */
const FLOAT_M = 0.4

/**
 * Lays a line of the plan over the ground: x, y, z for points no farther apart than the cells of the ground. Points beside the
 * ground are left out.
 */
export function drape(g: GroundBuffer, line: number[][]): number[] {
  const cell = Math.min(g.size_m[0] / (g.nx - 1), g.size_m[1] / (g.nz - 1))
  const out: number[] = []
  const put = (x: number, z: number) => {
    const y = heightAt(g, x, z)
    if (y !== null) out.push(x, y + FLOAT_M, z)
  }
  for (let i = 0; i + 1 < line.length; i++) {
    const [[ax, az], [bx, bz]] = [line[i], line[i + 1]]
    const pieces = Math.max(1, Math.min(400, Math.ceil(Math.hypot(bx - ax, bz - az) / cell)))
    for (let k = 0; k < pieces; k++) put(ax + ((bx - ax) * k) / pieces, az + ((bz - az) * k) / pieces)
  }
  const last = line.at(-1)
  if (last) put(last[0], last[1])
  return out
}

/** The two edges of a track: its line moved to either side by half its width. */
export function edges(line: number[][], width: number): [number[][], number[][]] {
  const side = (sign: number) =>
    line.map(([x, z], i) => {
      const [ax, az] = line[Math.max(i - 1, 0)]
      const [bx, bz] = line[Math.min(i + 1, line.length - 1)]
      const length = Math.hypot(bx - ax, bz - az) || 1
      return [x - (sign * (bz - az) * width) / 2 / length, z + (sign * (bx - ax) * width) / 2 / length]
    })
  return [side(1), side(-1)]
}
