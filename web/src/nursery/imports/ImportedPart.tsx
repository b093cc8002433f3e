import type { Species } from '../../api/client'
import { NumberField } from '../../ui/NumberField'
import { Part } from '../../ui/Part'
import { Switch } from '../../ui/Switch'
import type { EditSpecies } from '../useEditSpecies'
import type { Plan } from './draft'

interface ImportedPartProps {
  species: Species
  plan: Plan & { make: 'imported' }
  edit: EditSpecies
}

/** What an imported species keeps of its file, and how light goes through it. Its colours stay the same all year. */
export function ImportedPart({ species, plan, edit }: ImportedPartProps) {
  const { colours } = species
  const change = (part: Partial<typeof colours>, gesture?: string) => edit({ colours: { ...colours, ...part } }, gesture)
  return (
    <Part title="From a file" summary={plan.name}>
      <p className="mb-2 text-soft">It keeps the colours and pictures of its file, the same all year.</p>
      <label className="mb-2 flex items-center gap-2">
        <Switch label="Thin leaves" on={plan.thin ?? false} onChange={(thin) => edit({ plan: { ...plan, thin } })} />
        Thin leaves: seen from both sides
      </label>
      <div className="grid grid-cols-2 gap-3">
        {plan.thin && (
          <NumberField label="Light through leaves" unit="%" value={colours.through * 100} min={0} max={100} step={1} digits={0} hint="How much light that falls on one side of a leaf comes out on the other."
            onChange={(v, gesture) => change({ through: v / 100 }, gesture)} />
        )}
        <NumberField label="Sheen" testId="sheen" unit="%" value={(colours.sheen ?? 0) * 100} min={0} max={100} step={1} digits={0} hint="How glossy it is: 0 dull, 100 as waxed leaves or wet stone."
          onChange={(v, gesture) => change({ sheen: v / 100 }, gesture)} />
        <NumberField label="Glow" value={colours.glow ?? 0} min={0} max={20} step={0.05} digits={2} hint="Light it gives off by itself: 1 is what it would send back of full daylight."
          onChange={(glow, gesture) => change({ glow }, gesture)} />
      </div>
    </Part>
  )
}
