import { useUi } from '../state/ui'
import { Button } from '../ui/Button'
import type { Note } from './useNotes'

/** What was found, each with a fix where there is one. */
export function Notes({ notes }: { notes: Note[] }) {
  const set = useUi((s) => s.set)
  if (notes.length === 0) return <p className="text-soft">Nothing to remark on.</p>
  return (
    <ul className="divide-y divide-rule">
      {notes.map((n) => (
        <li key={n.text} className="flex items-center justify-between gap-3 py-1">
          <button type="button" className="text-left hover:underline" onClick={() => set({ layer: n.layer, station: 'planting' })}>
            {n.text}
          </button>
          {n.fix && <Button onClick={n.fix.run}>{n.fix.name}</Button>}
        </li>
      ))}
    </ul>
  )
}
