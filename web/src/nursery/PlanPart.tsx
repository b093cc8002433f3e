import type { Setting, Species, SpeciesSpec } from '../api/client'
import { NumberField } from '../ui/NumberField'
import { Part } from '../ui/Part'
import { Select } from '../ui/Select'
import type { EditSpecies } from './useEditSpecies'

export interface PlanPartProps {
  species: Species
  settings: Setting[]
  edit: EditSpecies
}

/** What the species is generated from. The fields are those its generator declares. */
export function PlanPart({ species, settings, edit }: PlanPartProps) {
  const plan = species.plan as unknown as Record<string, number | string>
  const change = (id: string, value: number | string, gesture?: string) =>
    edit({ plan: { ...plan, [id]: value } as unknown as SpeciesSpec['plan'] }, gesture)
  return (
    <Part title="Growth form" summary="moves no plant">
      <div className="grid grid-cols-2 gap-x-3 gap-y-2">
        {settings.map((s) =>
          s.choices.length > 0 ? (
            <Select key={s.id} label={s.label} hint={s.hint} value={`${plan[s.id]}`} options={s.choices} onChange={(v) => change(s.id, v)} />
          ) : (
            <NumberField
              key={s.id}
              label={s.label}
              testId={`plan-${s.id}`}
              unit={s.unit}
              hint={s.hint}
              value={plan[s.id] as number}
              min={s.low}
              max={s.high}
              step={s.step}
              digits={s.step >= 1 ? 0 : s.step >= 0.1 ? 1 : s.step >= 0.01 ? 2 : 3}
              onChange={(v, gesture) => change(s.id, v, gesture)}
            />
          ),
        )}
      </div>
    </Part>
  )
}
