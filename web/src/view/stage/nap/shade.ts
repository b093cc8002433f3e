import type { Schemas } from '../../../api/client'

/** Earths in the order of their numbers, as in rookery-core/src/document. */
const EARTHS: Schemas['Earth'][] = ['turf', 'peat', 'sand', 'shingle', 'rock']

/** What of the nap shades the ground, for all materials of grounds and that of the nap. */
export const napUniforms = {
  /** How near it is drawn, against where all of it is: what is shaded has it over itself. 0 where none is. */
  uNapReach: { value: 0 },
  uNapOf: { value: EARTHS.map(() => 1) },
}

/** Says which earths bring none. */
export function setBare(bare: readonly Schemas['Earth'][]) {
  napUniforms.uNapOf.value = EARTHS.map((earth) => (bare.includes(earth) ? 0 : 1))
}
