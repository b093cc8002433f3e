import { ticks } from 'd3-array'

/** Round numbers over a span, evenly apart, at most so many. */
export function marks(low: number, high: number, most: number): number[] {
  for (let about = most; about > 1; about--) {
    const out = ticks(low, high, about)
    if (out.length <= most) return out
  }
  return ticks(low, high, 1)
}
