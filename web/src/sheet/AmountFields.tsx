import type { Layer } from '../api/client'
import { usePlants } from '../state/data'
import { useScene } from '../state/scene'
import { NumberField } from '../ui/NumberField'

/** The amount in both units: the one that is set, and what it comes to in the other. Changing either sets it. */
export function AmountFields({ layer }: { layer: Layer }) {
  const { editLayer } = useScene.getState()
  const { data } = usePlants(layer)
  const allowed = data?.tally.allowed_m2 ?? 0
  const { amount } = layer
  const perM2 = amount.unit === 'per_m2' ? amount.value : allowed > 0 ? amount.value / allowed : 0
  const total = amount.unit === 'total' ? amount.value : Math.round(amount.value * allowed)
  const mark = (set: boolean) => `rounded-md p-1.5 ${set ? 'bg-thrift-wash' : ''}`

  return (
    <div className="-mx-1.5 grid grid-cols-2 gap-1">
      <div className={mark(amount.unit === 'per_m2')}>
        <NumberField
          label="per m²"
          testId="amount-per-m2"
          value={perM2}
          min={0}
          max={1000}
          step={perM2 < 0.5 ? 0.005 : perM2 < 20 ? 0.05 : 0.5}
          digits={perM2 < 0.1 ? 4 : 2}
          disabled={layer.locked}
          hint="Plants on each square metre of allowed ground, seen from above. More only adds; none that stand move."
          onChange={(value, gesture) => editLayer(layer.id, { set: 'amount', value: { unit: 'per_m2', value } }, gesture)}
        />
      </div>
      <div className={mark(amount.unit === 'total')}>
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
          onChange={(value, gesture) =>
            editLayer(layer.id, { set: 'amount', value: { unit: 'total', value: Math.round(value) } }, gesture)
          }
        />
      </div>
    </div>
  )
}
