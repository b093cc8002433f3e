import type { Schemas } from '../api/client'

export type NoiseGround = Schemas['NoiseGround']

/** The demo's ground. */
export const DEFAULT_NOISE: NoiseGround = {
  size_m: 240,
  relief_m: 36,
  feature_m: 110,
  ruggedness: 0.45,
  coast: 1,
  seed: 11,
  samples: 241,
}

/** Heights along a side: one a metre, within what a noise ground may have. */
export function samplesFor(sizeM: number): number {
  return Math.min(1025, Math.max(129, Math.round(sizeM) + 1))
}
