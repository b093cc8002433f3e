import { useQueries } from '@tanstack/react-query'
import { Popover } from 'radix-ui'
import type { PlantsBuffer } from '../api/buffers'
import { grownQuery, useSpecies } from '../state/data'
import { meanTriangles } from '../state/mix'
import { useScene } from '../state/scene'
import { showCount, showMany } from '../ui/parse'
import { Ceiling } from './Ceiling'

/** The ceiling that a scene should stay under to be worked on with ease. */
const BUDGET_PLANTS = 1_000_000

/** How much of the budget the scene uses; opened, what it is made of and the ceiling of the scene. */
export function Budget() {
  const scene = useScene((s) => s.scene)!
  const { data: species } = useSpecies()
  const grown = useQueries({
    queries: scene.layers.map((l) => grownQuery(l.id, l.plants_key)),
  })
  const lines = scene.document.layers.map((layer, i) => ({ layer, tally: (grown[i]?.data as PlantsBuffer | undefined)?.tally }))
  const plants = lines.reduce((sum, l) => sum + (l.tally?.placed ?? 0), 0)
  const triangles = lines.reduce((sum, l) => sum + (l.tally?.placed ?? 0) * meanTriangles(l.layer, species), 0)
  const cut = lines.flatMap(({ layer, tally }) => {
    const count = tally && tally.cap < layer.cap ? (tally.refused.find((r) => r.reason.rule === 'cap')?.count ?? 0) : 0
    return count > 0 ? [{ layer, count }] : []
  })
  const most = scene.document.cap ?? BUDGET_PLANTS
  const share = plants / most
  const tone = share > 1 || cut.length > 0 ? 'bg-iron' : share > 0.8 ? 'bg-lichen' : 'bg-fern'
  return (
    <Popover.Root>
      <Popover.Trigger className="w-24 rounded-md px-1 text-left hover:bg-well data-[state=open]:bg-well" data-testid="budget">
        <span className="flex justify-between text-[11px] leading-4 text-soft">
          <span>Budget</span>
          <span className={`font-mono ${cut.length > 0 ? 'text-iron' : ''}`}>{cut.length > 0 ? 'full' : `${Math.round(share * 100)} %`}</span>
        </span>
        <span className="sr-only">
          {showCount(plants)} plants of {showCount(most)}
          {cut.length > 0 && ', the ceiling of the scene is reached'}
        </span>
        <span className="block h-1 overflow-hidden rounded-full bg-well">
          <span className={`block h-full ${tone}`} style={{ width: `${Math.min(100, share * 100)}%` }} />
        </span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content sideOffset={6} align="end" collisionPadding={12} className="z-40 w-80 rounded-md border border-rule bg-panel p-3 shadow-xl" data-testid="budget-card">
          <h3 className="font-semibold">Budget</h3>
          <dl className="mt-1.5 grid grid-cols-[1fr_auto] gap-x-3 gap-y-0.5 text-[13px]">
            <dt className="text-soft">Plants in all layers</dt>
            <dd className="text-right font-mono">{showCount(plants)}</dd>
            <dt className="text-soft">Triangles in a still at full detail</dt>
            <dd className="text-right font-mono">{showMany(triangles)}</dd>
            {scene.document.cap == null && (
              <>
                <dt className="text-soft">To be worked on with ease</dt>
                <dd className="text-right font-mono">{showCount(BUDGET_PLANTS)}</dd>
              </>
            )}
          </dl>
          <Ceiling plants={plants} cut={cut} />
          <Popover.Arrow className="fill-rule" />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
