import { reasonWords } from '../sheet/TallyBar'
import { percents } from '../state/mix'
import type { Grown } from './useGrown'

/** A field as RFC 4180 has it: in quotes where it needs them. */
const field = (value: string | number) => {
  const text = `${value}`
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text
}

/** The account as a table: a line a layer and species. Lines end as in RFC 4180. */
export function accountCsv(grown: Grown[], nameOf: (id: string) => string): string {
  const head = ['layer', 'species', 'share_percent', 'asked', 'placed', 'placed_of_species', 'allowed_m2', 'ground_m2', 'refused']
  const lines = grown.flatMap(({ layer, tally }) => {
    const shares = percents(layer.mix)
    const refused = tally?.refused.filter((r) => r.count > 0).map((r) => `${reasonWords(r.reason)}: ${r.count}`).join('; ') ?? ''
    return layer.mix.map((m, i) => [
      layer.name, nameOf(m.species), shares[i], tally?.asked ?? '', tally?.placed ?? '', tally?.per_species[i] ?? '',
      tally ? Number(tally.allowed_m2.toFixed(2)) : '', tally ? Number(tally.ground_m2.toFixed(2)) : '', refused,
    ])
  })
  return [head, ...lines].map((line) => `${line.map(field).join(',')}\r\n`).join('')
}
