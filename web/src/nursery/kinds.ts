import type { Kind } from '../api/client'

/** Kinds as they are listed and called. */
export const KINDS: { id: Kind; name: string }[] = [
  { id: 'grass', name: 'Grasses' },
  { id: 'herb', name: 'Herbs' },
  { id: 'fern', name: 'Ferns' },
  { id: 'cushion', name: 'Cushions' },
  { id: 'shrub', name: 'Shrubs' },
  { id: 'broadleaf', name: 'Broadleaves' },
  { id: 'conifer', name: 'Conifers' },
  { id: 'rock', name: 'Rocks' },
  { id: 'debris', name: 'Debris' },
  { id: 'floating', name: 'Water plants' },
]

export const SEASONS = ['Spring', 'Summer', 'Autumn', 'Winter', 'Dead']

/** A moment of the year in words. */
export function seasonName(at: number): string {
  const nearest = Math.round(at)
  if (Math.abs(at - nearest) < 0.13) return SEASONS[nearest]
  const [from, to] = [SEASONS[Math.floor(at)], SEASONS[Math.floor(at) + 1]]
  return `${from} to ${to.toLowerCase()}`
}

/** Heights from millimetres to tens of metres, as people say them. */
export function sayLength(m: number): string {
  if (m < 0.0995) return `${Number((m * 1000).toPrecision(2))} mm`
  if (m < 0.995) return `${Math.round(m * 100)} cm`
  return `${m.toFixed(1)} m`
}

export function sayBytes(bytes: number): string {
  return bytes < 1e6 ? `${Math.max(1, Math.round(bytes / 1000))} kB` : `${(bytes / 1e6).toFixed(1)} MB`
}
