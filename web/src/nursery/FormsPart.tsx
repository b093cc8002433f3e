import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, wanted, type Species } from '../api/client'
import { useScene } from '../state/scene'
import { NumberField } from '../ui/NumberField'
import { Part } from '../ui/Part'
import { Switch } from '../ui/Switch'
import { showCount } from '../ui/parse'
import { Portrait } from './Portrait'
import { sayBytes } from './kinds'
import { useRested } from './useRested'
import type { EditSpecies } from './useEditSpecies'

/** The individuals of a species side by side, and how heavy they are. */
export function FormsPart({ species, edit }: { species: Species; edit: EditSpecies }) {
  const [figure, setFigure] = useState(false)
  const scene = useScene((s) => s.scene!.id)
  const key = useRested(species.key)
  const { data: standIns } = useQuery({
    queryKey: ['stand-ins', key],
    placeholderData: keepPreviousData,
    queryFn: () => wanted(api.GET('/api/scenes/{scene}/species/{species}/{key}/stand-ins', { params: { path: { scene, species: species.id, key } } })),
  })
  const shown = Math.min(species.forms, 4)
  return (
    <Part title="Forms" summary={`${species.forms} individuals`}>
      <Portrait species={species} urgent forms={shown} figure={figure} wide={2} pixels={200} className="w-full rounded-md" />
      <label className="my-2 flex items-center gap-2">
        <Switch label="A figure of 1.75 m beside them" on={figure} onChange={setFigure} />
        A figure of 1.75 m beside them
      </label>
      <div className="mb-3 grid grid-cols-2 gap-3">
        <NumberField label="Forms" testId="species-forms" value={species.forms} min={1} max={32} step={1} digits={0} hint="Different individuals of the species."
          onChange={(forms, gesture) => edit({ forms: Math.round(forms) }, gesture)} />
        <NumberField label="Seed" value={species.seed} min={0} max={4294967295} step={1} digits={0} hint="Another number, other individuals."
          onChange={(seed, gesture) => edit({ seed: Math.round(seed) }, gesture)} />
      </div>
      <table className="w-full text-xs">
        <thead className="text-left text-soft">
          <tr>
            <th className="font-normal">Detail</th>
            <th className="text-right font-normal">Triangles</th>
            <th className="text-right font-normal">A form takes</th>
            <th className="text-right font-normal" title="Pixels that only it or only the full form covers, seen from the side">
              Outline off by
            </th>
          </tr>
        </thead>
        <tbody className="font-mono" data-testid="species-details">
          <tr className="border-t border-rule">
            <td className="py-0.5 font-sans">Every leaf</td>
            <td className="text-right">{showCount(species.sizes[0].triangles)}</td>
            <td className="text-right">{sayBytes(species.sizes[0].bytes)}</td>
            <td className="text-right">–</td>
          </tr>
          {standIns?.map((s) => (
            <tr key={s.kind} className="border-t border-rule">
              <td className="py-0.5 font-sans capitalize">{s.kind}</td>
              <td className="text-right">{showCount(s.size.triangles)}</td>
              <td className="text-right">{sayBytes(s.size.bytes)}</td>
              <td className="text-right">{Math.round(s.outline_error * 100)} %</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Part>
  )
}
