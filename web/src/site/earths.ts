import type { Schemas } from '../api/client'

export type Earth = Schemas['Earth']

/** The kinds of bare ground by name. */
export const EARTHS: { value: Earth; name: string }[] = [
  { value: 'turf', name: 'Turf' },
  { value: 'peat', name: 'Peat' },
  { value: 'sand', name: 'Sand' },
  { value: 'shingle', name: 'Shingle' },
  { value: 'rock', name: 'Rock' },
]
