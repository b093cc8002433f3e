import { useQuery } from '@tanstack/react-query'
import { api, wanted, type Species } from '../api/client'
import { useScene } from '../state/scene'
import { Part } from '../ui/Part'
import { showNumber } from '../ui/parse'
import { sayLength } from './kinds'
import { useRested } from './useRested'

const stiffness = (ei: number) => (ei >= 1000 ? `${showNumber(ei / 1000, 1)} kN m²` : `${Number(ei.toPrecision(2))} N m²`)
const mass = (kg: number) => (kg >= 1 ? `${showNumber(kg, 0)} kg` : `${Number((kg * 1000).toPrecision(2))} g`)

/** How a full-grown plant bends, worked out from its size and what it is made of. */
export function BendingPart({ species }: { species: Species }) {
  const b = species.bending
  const scene = useScene((s) => s.scene!.id)
  const key = useRested(species.key)
  const { data: forms } = useQuery({
    queryKey: ['bending', key],
    enabled: !!b,
    queryFn: () => wanted(api.GET('/api/scenes/{scene}/species/{species}/{key}/bending', { params: { path: { scene, species: species.id, key } } })),
  })
  const sways = forms?.map((f) => f.sway_hz) ?? []
  if (!b) return null
  return (
    <Part title="Bending" summary={`sways ${Number(b.sway_hz.toPrecision(2))} times a second`}>
      <dl className="grid grid-cols-[1fr_auto] gap-x-3 text-xs" data-testid="bending">
        <dt className="text-soft">Bends over a length of</dt>
        <dd className="text-right font-mono">{sayLength(b.length_m)}</dd>
        <dt className="text-soft">Thickness at the foot</dt>
        <dd className="text-right font-mono">{sayLength(b.thick_m)}</dd>
        <dt className="text-soft">Stiffness EI</dt>
        <dd className="text-right font-mono">{stiffness(b.stiffness_n_m2)}</dd>
        <dt className="text-soft">Mass that sways</dt>
        <dd className="text-right font-mono">{mass(b.mass_kg)}</dd>
        <dt className="text-soft">Tip in a wind of 10 m/s</dt>
        <dd className="text-right font-mono">{b.tip_m >= b.length_m ? 'laid over' : sayLength(b.tip_m)}</dd>
        {sways.length > 1 && (
          <>
            <dt className="text-soft">Its forms sway</dt>
            <dd className="text-right font-mono">
              {Number(Math.min(...sways).toPrecision(2))}–{Number(Math.max(...sways).toPrecision(2))} Hz
            </dd>
          </>
        )}
        <dt className="text-soft">Pieces along its length</dt>
        <dd className="text-right font-mono">{b.segments}</dd>
      </dl>
      {!b.smooth && <p className="mt-2 text-xs text-iron">So few pieces bend in corners; four or more bend smoothly.</p>}
    </Part>
  )
}
