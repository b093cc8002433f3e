import { useQuery } from '@tanstack/react-query'
import { api, wanted, type Species } from '../api/client'
import { useScene } from '../state/scene'
import { Button } from '../ui/Button'
import { NumberField } from '../ui/NumberField'
import { Part } from '../ui/Part'
import { showNumber } from '../ui/parse'
import { sayLength } from './kinds'
import { useEditSpecies } from './useEditSpecies'
import { useRested } from './useRested'

const stiffness = (ei: number) => (ei >= 1000 ? `${showNumber(ei / 1000, 1)} kN m²` : `${Number(ei.toPrecision(2))} N m²`)
const mass = (kg: number) => (kg >= 1 ? `${showNumber(kg, 0)} kg` : `${Number((kg * 1000).toPrecision(2))} g`)

/** How it answers the wind and what presses it down: as its kind does, unless it is set otherwise. */
function SwaysFields({ species }: { species: Species }) {
  const edit = useEditSpecies(species)
  const { sways } = species
  const own = Boolean(species.spec.sways)
  const set = (part: Partial<typeof sways>, gesture?: string) => edit({ sways: { ...sways, ...part } }, gesture)
  return (
    <div className="mt-3" data-testid="sways">
      <div className="grid grid-cols-2 gap-2">
        <NumberField label="Stiffness" testId="sways-stiffness" unit="×" value={sways.stiffness} min={0.1} max={10} step={0.05} digits={2} fallback={1} hint="Times as stiff as its stems are by what they are made of. Stiffer plants sway quicker and lean less." onChange={(stiffness, g) => set({ stiffness }, g)} />
        <NumberField label="Damping" testId="sways-damping" unit="%" value={sways.damping * 100} min={5} max={100} step={1} digits={0} hint="How soon it comes to rest: at 5 % it rocks for long, at 100 % it does not swing back." onChange={(v, g) => set({ damping: v / 100 }, g)} />
        <NumberField label="May bend" testId="sways-most" unit="°" value={sways.most_deg} min={1} max={80} step={1} digits={0} hint="How far the wind may turn its tip." onChange={(most_deg, g) => set({ most_deg }, g)} />
        <NumberField label="Stays lying" testId="sways-lodging" unit="%" value={sways.lodging * 100} min={0} max={100} step={5} digits={0} hint="How much of it stays down when what pressed it is gone." onChange={(v, g) => set({ lodging: v / 100 }, g)} />
      </div>
      {own && (
        <Button look="quiet" className="mt-1.5" onClick={() => edit({ sways: undefined })}>
          As its kind does
        </Button>
      )}
    </div>
  )
}

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
      <SwaysFields species={species} />
      {!b.smooth && <p className="mt-2 text-xs text-iron">So few pieces bend in corners; four or more bend smoothly.</p>}
    </Part>
  )
}
