import type { Layer, Species } from '../api/client'

/** Bands of a vegetation profile from the top down, with the height their plants reach at least, metres. */
export const BANDS = [
  { id: 'canopy', name: 'Canopy', from: 5 },
  { id: 'understorey', name: 'Understorey', from: 2 },
  { id: 'shrub', name: 'Shrub', from: 1 },
  { id: 'herb', name: 'Herb', from: 0.3 },
  { id: 'ground', name: 'Ground', from: 0 },
  { id: 'stone', name: 'Stone', from: 0 },
] as const

export type BandId = (typeof BANDS)[number]['id']

/** The height a layer's plants really reach, metres. */
export function reach(layer: Layer, species: Species | undefined): number {
  return (species?.height_m ?? 0.5) * layer.stance.size.max
}

/** The band a layer stands in. */
export function bandOf(layer: Layer, species: Species | undefined): BandId {
  if (species?.kind === 'rock') return 'stone'
  const height = reach(layer, species)
  return BANDS.find((b) => height >= b.from)!.id
}
