import type { Layer, Mask, Schemas } from '../../api/client'
import { Choice } from '../../ui/Choice'
import { ColourField } from '../../ui/ColourField'
import { NumberField } from '../../ui/NumberField'
import { useSpecies } from '../../state/data'

type Drives = Schemas['Drives']

const FRESH: Record<Drives['what'], Drives> = {
  amount: { what: 'amount' },
  size: { what: 'size', low: 0.5, high: 1 },
  mix: { what: 'mix' },
  tint: { what: 'tint', colour: [0.78, 0.68, 0.42] },
}

interface DriveFieldsProps {
  layer: Layer
  mask: Mask
  onChange(part: Partial<Mask>, gesture?: string): void
}

/** What a mask changes: whether plants stand, how large they are, which of them grow, or their colour. */
export function DriveFields({ layer, mask, onChange }: DriveFieldsProps) {
  const { data: species } = useSpecies()
  const drives = mask.drives ?? FRESH.amount
  const name = (i: number) => species?.find((s) => s.id === layer.mix.at(i)?.species)?.name ?? '…'
  const size = (label: string, key: 'low' | 'high') =>
    drives.what === 'size' && (
      <NumberField label={label} testId={`drives-${key}`} unit="×" value={drives[key]} min={0.05} max={20} step={0.05} digits={2} disabled={layer.locked}
        onChange={(v, gesture) => onChange({ drives: { ...drives, [key]: v } }, gesture)} />
    )
  return (
    <div className="mt-1.5 flex flex-wrap items-end gap-2" data-testid="mask-drives">
      <Choice
        label="What it changes" value={drives.what} disabled={layer.locked}
        options={[
          { value: 'amount', name: 'Amount', hint: 'Where it is high plants stand, where it is low they do not.' },
          { value: 'size', name: 'Size', hint: 'Short here, tall there.' },
          { value: 'mix', name: 'Mix', hint: 'Which species grows where.' },
          { value: 'tint', name: 'Tint', hint: 'Another colour here and there.' },
        ]}
        onChange={(what) => onChange({ drives: FRESH[what] })}
      />
      {drives.what === 'size' && (
        <div className="grid w-full grid-cols-2 gap-2">
          {size('Size where it lets nothing through', 'low')}
          {size('Size where it lets all through', 'high')}
        </div>
      )}
      {drives.what === 'mix' && (
        <p className="w-full text-xs text-soft">
          {layer.mix.length < 2
            ? 'This layer grows one species. Add another under “What grows”.'
            : `From ${name(0)} where it lets nothing through to ${name(-1)} where it lets all through${layer.mix.length > 2 ? ', the others between them' : ''}. Invert it to swap the ends.`}
        </p>
      )}
      {drives.what === 'tint' && (
        <ColourField label="Towards" value={drives.colour} disabled={layer.locked} onChange={(colour, gesture) => onChange({ drives: { ...drives, colour } }, gesture)} />
      )}
    </div>
  )
}
