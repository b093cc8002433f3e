import type { Response } from '../../api/client'
import type { End } from '../response'
import { NEVER_ENDS } from './quantities'

export type DistanceBand = 'far' | 'near' | 'ring'

/** What a response makes of distances. */
export function bandOf({ full_from, full_to }: Response): DistanceBand {
  if (full_to >= NEVER_ENDS / 2) return 'far'
  return full_from <= 0 ? 'near' : 'ring'
}

/** The ends that mean something for it. */
export function wantedEnds(band: DistanceBand): End[] {
  return { far: ['start', 'full_from'], near: ['full_to', 'end'], ring: ['start', 'full_from', 'full_to', 'end'] }[band] as End[]
}

/** The same distances seen another way: what kept off so far keeps close as far, and the other way round. */
export function asBand(r: Response, to: DistanceBand): Response {
  const band = bandOf(r)
  const [inner, outer] = band === 'near' ? [r.full_to, r.end] : [r.start, r.full_from]
  const wide = Math.max(outer, 1)
  switch (to) {
    case 'far':
      return { ...r, start: inner, full_from: outer, full_to: NEVER_ENDS, end: NEVER_ENDS }
    case 'near':
      return { ...r, start: 0, full_from: 0, full_to: inner, end: outer }
    case 'ring':
      return { ...r, start: inner, full_from: outer, full_to: outer + wide * 2, end: outer + wide * 2 + Math.max(outer - inner, 0.5) }
  }
}
