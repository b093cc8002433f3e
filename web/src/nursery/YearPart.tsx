import type { Species } from '../api/client'
import { useScene } from '../state/scene'
import { NumberField } from '../ui/NumberField'
import { Part } from '../ui/Part'
import { Switch } from '../ui/Switch'
import { SeasonSlider } from './SeasonSlider'
import { seasonName } from './kinds'
import type { EditSpecies } from './useEditSpecies'

/** How the species goes through the year, and whether it keeps a season of its own. */
export function YearPart({ species, edit }: { species: Species; edit: EditSpecies }) {
  const scene = useScene((s) => s.scene!.document.season) ?? 1
  const own = species.season ?? null
  const year = species.year
  const change = (part: Partial<Species['year']>, gesture?: string) => edit({ year: { ...year, ...part } }, gesture)
  return (
    <Part title="Season" summary={own === null ? `that of the scene: ${seasonName(scene).toLowerCase()}` : 'its own'}>
      <label className="mb-2 flex items-center gap-2">
        <Switch label="A season of its own" on={own !== null} onChange={(on) => edit({ season: on ? scene : null })} />
        A season of its own
      </label>
      {own !== null && <SeasonSlider label="Season of this species" value={own} className="mb-2" onChange={(season, gesture) => edit({ season }, gesture)} />}
      {species.kind !== 'rock' && (
        <>
          <SeasonSlider label="In full flower" value={year.flowers_at} className="mb-2" onChange={(flowers_at, gesture) => change({ flowers_at }, gesture)} />
          <div className="grid grid-cols-2 gap-3">
            <NumberField label="Flowers for" unit="seasons" value={year.flowers_for} min={0.1} max={4} step={0.05} hint="To either side of its full flower."
              onChange={(flowers_for, gesture) => change({ flowers_for }, gesture)} />
            <NumberField label="Evergreen" unit="%" value={year.evergreen * 100} min={0} max={100} step={1} digits={0} hint="Share of the leaves that stay green over winter."
              onChange={(v, gesture) => change({ evergreen: v / 100 }, gesture)} />
          </div>
          <label className="mt-2 flex items-center gap-2">
            <Switch label="Sheds its dead leaves" on={year.sheds} onChange={(sheds) => change({ sheds })} />
            Sheds its dead leaves
          </label>
        </>
      )}
    </Part>
  )
}
