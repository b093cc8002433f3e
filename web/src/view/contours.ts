import type { GroundBuffer } from '../api/buffers'

const STEPS = [0.5, 1, 2, 5, 10, 20, 50, 100]

/** Metres between contour lines: about a dozen over the height of the ground. */
export function contourStep(ground: GroundBuffer): number {
  const height = ground.high_m - ground.low_m
  return STEPS.find((s) => height / s <= 16) ?? 200
}
