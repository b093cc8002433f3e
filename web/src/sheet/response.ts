import type { Response } from '../api/client'

export const ORDER = ['start', 'full_from', 'full_to', 'end'] as const
export type End = (typeof ORDER)[number]

/** Moves one end of a curve; the others give way, so that the four never fall. */
export function settled(response: Response, end: End, value: number): Response {
  const out = { ...response, [end]: value }
  const at = ORDER.indexOf(end)
  for (let i = at + 1; i < 4; i++) out[ORDER[i]] = Math.max(out[ORDER[i]], out[ORDER[i - 1]])
  for (let i = at - 1; i >= 0; i--) out[ORDER[i]] = Math.min(out[ORDER[i]], out[ORDER[i + 1]])
  return out
}
