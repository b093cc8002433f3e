import type { Kind, Species } from '../api/client'

export interface Wanted {
  /** Words that must all be found in a name, a tag or the kind. */
  words: string
  kind: Kind | null
  /** Only species the scene has of its own or grows. */
  here: boolean
  order: 'kind' | 'height'
  /** Only species that flower in the scene's season. */
  flowering: number | null
}

/** The species that fit, in order. */
export function found(all: Species[], wanted: Wanted, grown: Set<string>): Species[] {
  const words = wanted.words.toLowerCase().split(/\s+/).filter(Boolean)
  const fits = (s: Species) => {
    const text = [s.name, s.plural, s.kind, s.id, ...(s.tags ?? [])].join(' ').toLowerCase()
    return words.every((w) => text.includes(w))
  }
  const list = all.filter((s) => (!wanted.kind || s.kind === wanted.kind) && (!wanted.here || s.own || grown.has(s.id)) && (wanted.flowering === null || flowers(s, wanted.flowering)) && fits(s))
  return wanted.order === 'height' ? [...list].sort((a, b) => a.height_m - b.height_m) : list
}

/** Kinds that flower, as far as anybody sees. */
const FLOWERING: Kind[] = ['grass', 'herb', 'cushion', 'shrub', 'broadleaf']

/** Whether a species is in flower at a moment of the year. */
export function flowers({ kind, year, plan }: Species, season: number): boolean {
  return plan.make !== 'imported' && FLOWERING.includes(kind) && season < 3.5 && Math.abs(season - year.flowers_at) < year.flowers_for
}

/** An id for a fork that nothing has yet. */
export function freeId(all: { id: string }[], stem: string): string {
  const base = stem.replace(/-\d+$/, '').slice(0, 50)
  for (let n = 2; ; n++) if (!all.some((s) => s.id === `${base}-${n}`)) return `${base}-${n}`
}
