import type { Layer, Mask, Schemas } from '../../api/client'
import { NumberField } from '../../ui/NumberField'
import { Select } from '../../ui/Select'
import { DriveFields } from './DriveFields'

type Combine = Schemas['Combine']

const WAYS: { id: Combine; name: string }[] = [
  { id: 'multiply', name: 'and' },
  { id: 'lowest', name: 'lowest' },
  { id: 'highest', name: 'or' },
  { id: 'add', name: 'plus' },
  { id: 'subtract', name: 'less' },
]

const counts = (mask: Mask) => !mask.drives || mask.drives.what === 'amount'

interface CombineFieldsProps {
  layer: Layer
  mask: Mask
  onChange(part: Partial<Mask>, gesture?: string): void
}

/** How a mask comes together with those before it, and how much it counts. */
export function CombineFields({ layer, mask, onChange }: CombineFieldsProps) {
  const first = layer.masks.find((m) => m.enabled && counts(m))?.id === mask.id
  const way = WAYS.find((w) => w.id === (mask.combine ?? 'multiply'))!
  return (
    <>
    <DriveFields layer={layer} mask={mask} onChange={onChange} />
    <div className="mt-1.5 grid grid-cols-2 gap-2">
      {counts(mask) && <Select
        label={first ? 'First of the masks' : 'Together with the masks above'}
        value={way.name}
        options={WAYS.map((w) => w.name)}
        hint="And: both must let through. Lowest: the lower of the two. Or: the higher of the two. Plus: the two together. Less: what was let through without what this one lets through."
        onChange={(name) => onChange({ combine: WAYS.find((w) => w.name === name)!.id })}
      />}
      <NumberField label="Strength" testId={`mask-${mask.quantity}-strength`} unit="%" value={(mask.strength ?? 1) * 100} min={0} max={100} step={1} digits={0} fallback={100} disabled={layer.locked}
        hint="How much it counts: at 0 % it changes nothing." onChange={(v, gesture) => onChange({ strength: v / 100 }, gesture)} />
    </div>
    </>
  )
}
