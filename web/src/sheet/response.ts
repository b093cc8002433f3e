import type { Response } from '../api/client'

export const ORDER = ['start', 'full_from', 'full_to', 'end'] as const
export type End = (typeof ORDER)[number]

/** How many digits a value of a curve is kept with: the quantity's own, and enough to tell a five-hundredth of what is shown. */
export function digitsFor(own: number, low: number, high: number): number {
  const fine = Math.ceil(-Math.log10(Math.max(high - low, 1e-6) / 500))
  return Math.min(6, Math.max(own, fine, 0))
}

export const rounded = (value: number, digits: number) => Number(value.toFixed(digits))

export const sameResponse = (a: Response, b: Response) => a.inverted === b.inverted && ORDER.every((end) => a[end] === b[end])

/** Moves one end of a curve; the others give way, so that the four never fall. */
export function settled(response: Response, end: End, value: number): Response {
  const out = { ...response, [end]: value }
  const at = ORDER.indexOf(end)
  for (let i = at + 1; i < 4; i++) out[ORDER[i]] = Math.max(out[ORDER[i]], out[ORDER[i - 1]])
  for (let i = at - 1; i >= 0; i--) out[ORDER[i]] = Math.min(out[ORDER[i]], out[ORDER[i + 1]])
  return out
}
