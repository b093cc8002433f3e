import { useQueries } from '@tanstack/react-query'
import { useSpecies } from '../state/data'
import { useScene } from '../state/scene'
import type { PlantsBuffer } from '../api/buffers'
import { Hint } from '../ui/Hint'
import { showCount } from '../ui/parse'
import { meanTriangles } from '../state/mix'

/** The ceiling that a scene should stay under to be worked on with ease. */
const BUDGET_PLANTS = 1_000_000

/** How much of the budget the scene uses. */
export function Budget() {
  const scene = useScene((s) => s.scene)!
  const { data: species } = useSpecies()
  const grown = useQueries({
    queries: scene.layers.map((l) => ({ queryKey: ['plants', l.id, l.plants_key], enabled: false })),
  })
  let plants = 0
  let triangles = 0
  scene.document.layers.forEach((l, i) => {
    const count = (grown[i]?.data as PlantsBuffer | undefined)?.count ?? 0
    plants += count
    triangles += count * meanTriangles(l, species)
  })
  const share = plants / BUDGET_PLANTS
  const tone = share > 1 ? 'bg-iron' : share > 0.8 ? 'bg-lichen' : 'bg-fern'
  return (
    <Hint
      text={`${showCount(plants)} plants of ${showCount(BUDGET_PLANTS)}; ${showCount(triangles / 1e6)} million triangles in a still at full detail.`}
    >
      <div className="w-24 px-1" role="meter" aria-label="Budget" aria-valuenow={Math.round(share * 100)} aria-valuemin={0} aria-valuemax={100} tabIndex={0}>
        <div className="flex justify-between text-[11px] leading-4 text-soft">
          <span>Budget</span>
          <span className="font-mono">{Math.round(share * 100)} %</span>
        </div>
        <div className="h-1 overflow-hidden rounded-full bg-well">
          <div className={`h-full ${tone}`} style={{ width: `${Math.min(100, share * 100)}%` }} />
        </div>
      </div>
    </Hint>
  )
}
