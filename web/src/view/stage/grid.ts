import type { GroundBuffer } from '../../api/buffers'

/** Height of the view's ground at a point of the plan, metres; null beside it. */
export function heightAt(g: GroundBuffer, x: number, z: number): number | null {
  return sampleAt(g, g.heights, x, z)
}

/** Slope of the ground at a point of the plan, degrees; null beside it. */
export function slopeAt(g: GroundBuffer, x: number, z: number): number | null {
  return sampleAt(g, g.slopes, x, z)
}

/** A value at a point of the plan, between the samples; null beside the ground. */
export function sampleAt(g: GroundBuffer, values: Float32Array, x: number, z: number): number | null {
  const u = (x / g.size_m[0] + 0.5) * (g.nx - 1)
  const v = (z / g.size_m[1] + 0.5) * (g.nz - 1)
  if (!(u >= 0 && v >= 0 && u <= g.nx - 1 && v <= g.nz - 1)) return null
  const column = Math.min(Math.floor(u), g.nx - 2)
  const row = Math.min(Math.floor(v), g.nz - 2)
  const fx = u - column
  const fz = v - row
  const i = row * g.nx + column
  const [h00, h10, h01, h11] = [values[i], values[i + 1], values[i + g.nx], values[i + g.nx + 1]]
  // The same cut of the cell as in core's Terrain.
  return fx >= fz ? h00 + fx * (h10 - h00) + fz * (h11 - h10) : h00 + fz * (h01 - h00) + fx * (h11 - h01)
}

export interface Ray {
  origin: { x: number; y: number; z: number }
  direction: { x: number; y: number; z: number }
}

/** Where a ray meets the ground: marched a third of a cell at a time, then halved down to a millimetre. */
export function pickGround(g: GroundBuffer, ray: Ray): { x: number; y: number; z: number } | null {
  const { origin: o, direction: d } = ray
  const at = (t: number) => ({ x: o.x + d.x * t, y: o.y + d.y * t, z: o.z + d.z * t })
  const [t0, t1] = through(g, ray)
  if (t0 > t1) return null
  const cell = Math.min(g.size_m[0] / (g.nx - 1), g.size_m[1] / (g.nz - 1))
  const step = Math.max(cell * 0.34, (t1 - t0) / 6000)
  const above = (t: number) => {
    const p = at(t)
    const h = heightAt(g, p.x, p.z)
    return h === null ? null : p.y - h
  }
  let last = t0
  for (let t = t0; t <= t1 + step; t += step) {
    const height = above(t)
    if (height !== null && height <= 0) {
      let [low, high] = [last, t]
      while (high - low > 1e-3) {
        const middle = (low + high) / 2
        if ((above(middle) ?? 1) > 0) low = middle
        else high = middle
      }
      return at(high)
    }
    last = t
  }
  return null
}

/** The stretch of a ray within the box around the ground. */
function through(g: GroundBuffer, { origin, direction }: Ray): [number, number] {
  const low = { x: -g.size_m[0] / 2, y: g.low_m - 0.1, z: -g.size_m[1] / 2 }
  const high = { x: g.size_m[0] / 2, y: g.high_m + 0.1, z: g.size_m[1] / 2 }
  let [t0, t1] = [0, Infinity]
  for (const axis of ['x', 'y', 'z'] as const) {
    const inverse = 1 / direction[axis]
    const a = (low[axis] - origin[axis]) * inverse
    const b = (high[axis] - origin[axis]) * inverse
    if (Number.isNaN(a) || Number.isNaN(b)) continue
    t0 = Math.max(t0, Math.min(a, b))
    t1 = Math.min(t1, Math.max(a, b))
  }
  return [t0, t1]
}

/** The response curve of core's `habitat::response`, for laying a mask over the ground while it is dragged. */
/** What a mask makes of a value of its quantity: as in rookery-core/src/habitat/rules.rs. What is unknown lets all through. */
export function respond(
  mask: { quantity: string; response: { start: number; full_from: number; full_to: number; end: number; inverted: boolean } },
  value: number,
): number {
  if (Number.isNaN(value)) return 1
  if (mask.quantity !== 'aspect') return responseAt(mask.response, value)
  const plain = { ...mask.response, inverted: false }
  const most = Math.max(...[-360, 0, 360].map((turn) => responseAt(plain, value + turn)))
  return mask.response.inverted ? 1 - most : most
}

export function responseAt(
  r: { start: number; full_from: number; full_to: number; end: number; inverted: boolean },
  value: number,
): number {
  const rise = value >= r.full_from ? 1 : value <= r.start ? 0 : (value - r.start) / (r.full_from - r.start)
  const fall = value <= r.full_to ? 1 : value >= r.end ? 0 : (r.end - value) / (r.end - r.full_to)
  const inside = Math.min(rise, fall)
  return r.inverted ? 1 - inside : inside
}
