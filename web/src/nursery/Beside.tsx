import { X } from 'lucide-react'
import type { Species } from '../api/client'
import { useUi } from '../state/ui'
import { IconButton } from '../ui/IconButton'
import { showCount } from '../ui/parse'
import { Portrait } from './Portrait'
import { sayBytes, sayLength } from './kinds'

/** Two species beside each other and a figure of 1.75 m. */
export function Beside({ all, a, b }: { all: Species[]; a: string | null; b: string }) {
  const { set } = useUi()
  const pair = [a, b].flatMap((id) => all.filter((s) => s.id === id))
  return (
    <aside aria-label="Side by side" data-testid="beside" className="flex gap-4 border-t border-rule bg-panel px-4 py-3">
      {pair.map((s) => (
        <figure key={s.id} className="flex min-w-0 flex-1 gap-3">
          <Portrait species={s} urgent figure pixels={260} className="w-44 self-start rounded-md" />
          <figcaption className="min-w-0 text-xs">
            <b className="block truncate text-[13px]">{s.name}</b>
            <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-3 text-soft">
              <dt>Height</dt>
              <dd className="font-mono text-ink">{sayLength(s.height_m)}</dd>
              <dt>Width</dt>
              <dd className="font-mono text-ink">{sayLength(s.radius_m * 2)}</dd>
              <dt>Triangles</dt>
              <dd className="font-mono text-ink">{s.triangles.slice(0, 3).map((t) => showCount(t)).join(' / ')}</dd>
              <dt>Size</dt>
              <dd className="font-mono text-ink">{sayBytes(s.sizes[0].bytes)} a form</dd>
              <dt>Forms</dt>
              <dd className="font-mono text-ink">{s.forms}</dd>
            </dl>
          </figcaption>
        </figure>
      ))}
      {pair.length < 2 && <p className="text-soft">Choose another species to see the two beside each other.</p>}
      <IconButton icon={X} label="Close the comparison" onClick={() => set({ beside: null })} />
    </aside>
  )
}
