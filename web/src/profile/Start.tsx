import { FileUp, Sprout } from 'lucide-react'
import type { ReactNode } from 'react'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { Button } from '../ui/Button'
import { AddLayer } from './AddLayer'

const LOOP = ['Something grows', 'How much of it', 'Where it may', 'How it stands', 'Look, and a still']

/** What an empty scene offers: three ways to begin, and how the work goes round from there. */
export function Start() {
  const empty = useScene((s) => s.scene!.document.layers.length === 0)
  const station = useUi((s) => s.station)
  const set = useUi((s) => s.set)
  if (!empty || station !== 'planting') return null
  const file = () => {
    set({ station: 'nursery', shelf: 'species' })
    requestAnimationFrame(() => document.querySelector<HTMLInputElement>('[data-testid=species-file]')?.click())
  }
  return (
    <section aria-label="A start" data-testid="start" className="absolute top-24 left-1/2 w-[min(520px,calc(100%-32px))] -translate-x-1/2 rounded-md border border-rule bg-panel p-4 shadow-lg">
      <h2 className="mb-3 text-sm font-semibold">Nothing grows here yet</h2>
      <div className="grid grid-cols-3 gap-2.5">
        <Way what="A picture to choose from; it starts sparse.">
          <AddLayer look="primary" label="One species" />
        </Way>
        <Way what="Layers that belong together, ready to drop.">
          <Button data-testid="start-community" onClick={() => set({ station: 'nursery', shelf: 'communities' })}>
            <Sprout size={13} aria-hidden />
            A community
          </Button>
        </Way>
        <Way what="A plant or stone of your own: OBJ, PLY, GLB.">
          <Button onClick={file}>
            <FileUp size={13} aria-hidden />
            From a file
          </Button>
        </Way>
      </div>
      <ol aria-label="How the work goes round" className="mt-4 flex items-center justify-between border-t border-rule pt-3 text-xs text-soft">
        {LOOP.map((step, i) => (
          <li key={step} className="flex items-center gap-1.5">
            <span className="font-mono text-[11px] text-thrift">{i + 1}</span>
            {step}
          </li>
        ))}
      </ol>
      <p className="mt-2 text-xs text-soft">Everything stays live: change any of it at any time, and only what it concerns changes.</p>
    </section>
  )
}

const Way = ({ what, children }: { what: string; children: ReactNode }) => (
  <div className="flex flex-col gap-1.5 *:first:w-full">
    {children}
    <span className="text-xs text-soft">{what}</span>
  </div>
)
