import { MapPin } from 'lucide-react'
import { useSpecies } from '../state/data'
import { useUi } from '../state/ui'
import { Button } from '../ui/Button'
import { showCount, showNumber } from '../ui/parse'
import { useGrown } from './useGrown'
import { costOf, remarks, useFindings } from './useFindings'
import type { Note } from './useNotes'

/** What was found, each with a fix where there is one, and what was measured layer by layer. */
export function Notes({ notes }: { notes: Note[] }) {
  const set = useUi((s) => s.set)
  const pins = useUi((s) => s.pins)
  const measured = useFindings(true)
  const { data: species } = useSpecies()
  const nameOf = (id: string) => species?.find((s) => s.id === id)?.name ?? id
  const counts = new Map(useGrown().flatMap(({ layer, tally }) => (tally ? [[layer.id, tally.per_species] as const] : [])))
  const all = [...notes, ...measured.flatMap(remarks)]
  const waiting = measured.some((m) => !m.findings)
  const percent = (share: number) => (share === 0 ? '0' : `${showNumber(share * 100, share < 0.1 ? 1 : 0)} %`)
  return (
    <div className="flex flex-col gap-3">
      {all.length === 0 && <p className="text-soft">{waiting ? 'Measuring…' : 'Nothing to remark on.'}</p>}
      <ul className="divide-y divide-rule" data-testid="notes">
        {all.map((n) => (
          <li key={n.text} className="flex items-center justify-between gap-3 py-1">
            {n.layer === undefined ? (
              <span>{n.text}</span>
            ) : (
              <button type="button" className="text-left hover:underline" onClick={() => set({ layer: n.layer, station: 'planting' })}>
                {n.text}
              </button>
            )}
            <span className="flex shrink-0 items-center gap-1">
              {n.places && n.places.length > 0 && (
                <Button look="quiet" onClick={() => set({ pins: pins?.name === n.text ? null : { name: n.text, places: n.places! } })}>
                  <MapPin size={13} aria-hidden />
                  Show {n.places.length === 400 ? 'the worst 400' : showCount(n.places.length)}
                </Button>
              )}
              {n.fix && <Button onClick={n.fix.run}>{n.fix.name}</Button>}
            </span>
          </li>
        ))}
      </ul>
      <table className="w-full text-left" data-testid="measured">
        <thead className="text-xs text-soft">
          <tr>
            {['Measured', 'Plants', 'Cover of its ground', 'Hovering', 'Buried', 'Bases overlap', 'Repeats', 'Triangles, memory'].map((h) => (
              <th key={h} className="pr-3 pb-1 font-normal">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody className="font-mono text-xs">
          {measured.map(({ layer, findings: f }) => (
            <tr key={layer.id} className="border-t border-rule">
              <td className="py-1 pr-3 font-sans text-[13px]">
                {layer.name}
                {layer.mix.length > 1 && counts.has(layer.id) && (
                  <span className="block text-xs text-soft" data-testid={`species-of-${layer.id}`}>
                    {layer.mix.map((m, i) => `${nameOf(m.species)} ${showCount(counts.get(layer.id)![i] ?? 0)}`).join(', ')}
                  </span>
                )}
              </td>
              <td className="pr-3">{f ? showCount(f.plants) : '…'}</td>
              <td className="pr-3">{f && (f.cover == null ? 'none' : percent(f.cover))}</td>
              <td className="pr-3">{f && percent(f.hovering.share)}</td>
              <td className="pr-3">{f && percent(f.buried.share)}</td>
              <td className="pr-3">{f && percent(f.overlapping.share)}</td>
              <td className="pr-3">{f && percent(f.repeated.share)}</td>
              <td className="whitespace-nowrap">{f && costOf(f)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
