import { useState } from 'react'
import type { Layer } from '../api/client'
import { usePlants } from '../state/data'
import { useScene } from '../state/scene'
import { NumberField } from '../ui/NumberField'

type Amount = Layer['amount']

const AREAS = [
  { id: 'm²', m2: 1 },
  { id: '100 m²', m2: 100 },
  { id: 'hectare', m2: 10_000 },
]

/** The amount in four units: the one that is set and held, and what it comes to in the others. Changing any sets it. */
export function AmountFields({ layer }: { layer: Layer }) {
  const { editLayer } = useScene.getState()
  const { data } = usePlants(layer)
  const { amount } = layer
  const told = data?.tally.amount
  const perM2 = amount.unit === 'per_m2' ? amount.value : (told?.per_m2 ?? 0)
  const [chosen, setChosen] = useState<number | null>(null)
  // What reads best, until another is chosen.
  const area = chosen ?? (perM2 > 0 && perM2 < 0.002 ? 2 : perM2 > 0 && perM2 < 0.2 ? 1 : 0)
  const { m2 } = AREAS[area]
  const density = perM2 * m2
  const total = amount.unit === 'total' ? amount.value : (told?.total ?? 0)
  const cover = (amount.unit === 'cover' ? amount.value : (told?.cover ?? 0)) * 100
  const spacing = amount.unit === 'spacing' ? amount.value_m : (told?.spacing_m ?? 0)
  const set = (value: Amount, gesture?: string) => editLayer(layer.id, { set: 'amount', value }, gesture)
  const mark = (unit: Amount['unit']) => `rounded-md p-1.5 ${amount.unit === unit ? 'bg-thrift-wash' : ''}`

  return (
    <div className="-mx-1.5 grid grid-cols-2 gap-1" data-units>
      <div className={`${mark('per_m2')} relative`}>
        <NumberField
          label="per"
          testId="amount-per-m2"
          value={density}
          min={0}
          max={1000 * m2}
          step={density < 0.5 ? 0.005 : density < 20 ? 0.05 : 0.5}
          digits={density < 0.1 ? 4 : 2}
          disabled={layer.locked}
          hint="Plants on allowed ground, seen from above. More only adds; none that stand move."
          onChange={(value, gesture) => set({ unit: 'per_m2', value: value / m2 }, gesture)}
        />
        <select aria-label="Area the amount is counted on" value={area} onChange={(e) => setChosen(Number(e.currentTarget.value))}
          className="absolute top-1 left-7 h-5 rounded bg-transparent text-xs text-soft outline-none hover:text-ink focus:text-ink">
          {AREAS.map((a, i) => (
            <option key={a.id} value={i}>
              {a.id}
            </option>
          ))}
        </select>
      </div>
      <div className={mark('total')}>
        <NumberField
          label="in all"
          testId="amount-total"
          value={total}
          min={0}
          max={10_000_000}
          step={Math.max(1, Math.round(total / 100))}
          digits={0}
          disabled={layer.locked}
          hint="Plants on the whole ground, whatever the masks allow. More only adds; none that stand move."
          onChange={(value, gesture) => set({ unit: 'total', value: Math.round(value) }, gesture)}
        />
      </div>
      <div className={mark('cover')}>
        <NumberField
          label="covered"
          testId="amount-cover"
          unit="%"
          value={cover}
          min={0}
          max={98}
          step={0.5}
          digits={cover < 1 ? 2 : 1}
          disabled={layer.locked}
          hint="Share of the allowed ground under crowns, worked out from their mean size. Once set it is held when sizes change."
          onChange={(value, gesture) => set({ unit: 'cover', value: value / 100 }, gesture)}
        />
      </div>
      <div className={mark('spacing')}>
        <NumberField
          label="average spacing"
          testId="amount-spacing"
          unit="m"
          value={spacing}
          min={0.03}
          max={1000}
          step={spacing < 1 ? 0.01 : 0.1}
          digits={spacing < 1 ? 3 : 2}
          disabled={layer.locked}
          hint="Mean spacing: the side of the square of ground each plant has."
          onChange={(value_m, gesture) => set({ unit: 'spacing', value_m }, gesture)}
        />
      </div>
    </div>
  )
}
