import type { Schemas } from '../api/client'

export type NoiseGround = Schemas['NoiseGround']

/** The demo's ground. */
export const DEFAULT_NOISE: NoiseGround = {
  size_m: 240,
  relief_m: 36,
  feature_m: 110,
  ruggedness: 0.45,
  ridges: 0,
  valleys: 0,
  terraces: 0,
  terrace_m: 4,
  coast: 1,
  seed: 11,
  samples: 241,
}

/** Heights along a side: one a metre, within what a noise ground may have. */
export function samplesFor(sizeM: number): number {
  return Math.min(2001, Math.max(129, Math.round(sizeM) + 1))
}
