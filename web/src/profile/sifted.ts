import type { Layer, Species, Tally } from '../api/client'

/** What is known of a layer beside its settings. */
export interface Known {
  species: Species[]
  tally?: Tally
}

/** Whether all words are found in a layer's name, its species, their kinds and tags, or its state: hidden, locked, cut, empty. */
export function sifted(layer: Layer, { species, tally }: Known, words: string): boolean {
  const state = [
    layer.visible ? 'shown' : 'hidden',
    layer.locked ? 'locked' : '',
    tally?.refused.some((r) => r.reason.rule === 'cap' && r.count > 0) ? 'cut' : '',
    tally?.placed === 0 ? 'empty' : '',
    layer.tended?.length || layer.drifts?.length ? 'tended' : '',
  ]
  const text = [layer.name, layer.group ?? '', ...species.flatMap((s) => [s.name, s.plural, s.kind, ...(s.tags ?? [])]), ...state].join(' ').toLowerCase()
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((w) => text.includes(w))
}
