import type { Schemas } from '../../api/client'
import { NumberField } from '../../ui/NumberField'
import { Select } from '../../ui/Select'

type Noise = Schemas['NoiseMask']

const KINDS: { id: Schemas['NoiseKind']; name: string }[] = [
  { id: 'soft', name: 'soft patches' },
  { id: 'ridged', name: 'winding ridges' },
  { id: 'clumps', name: 'round clumps' },
  { id: 'cells', name: 'cells' },
]

interface NoiseFieldsProps {
  noise: Noise
  disabled: boolean
  onChange(noise: Noise, gesture?: string): void
}

/** The look of a mask's noise. */
export function NoiseFields({ noise, disabled, onChange }: NoiseFieldsProps) {
  const share = (label: string, key: 'rough' | 'contrast' | 'floor', hint: string, max = 100) => (
    <NumberField label={label} testId={`noise-${key}`} unit="%" value={(noise[key] ?? 0) * 100} min={0} max={max} step={1} digits={0} disabled={disabled} hint={hint}
      onChange={(v, gesture) => onChange({ ...noise, [key]: v / 100 }, gesture)} />
  )
  return (
    <div className="mt-1 grid grid-cols-3 gap-x-2 gap-y-1">
      <Select label="Look" value={KINDS.find((k) => k.id === noise.kind)!.name} options={KINDS.map((k) => k.name)} onChange={(name) => onChange({ ...noise, kind: KINDS.find((k) => k.name === name)!.id })} />
      <NumberField label="Size" testId="noise-size" unit="m" value={noise.size_m} min={0.05} max={2000} step={0.1} digits={2} disabled={disabled} hint="Width of its largest forms." onChange={(size_m, gesture) => onChange({ ...noise, size_m }, gesture)} />
      <NumberField label="Seed" value={noise.seed} min={0} max={4294967295} step={1} digits={0} disabled={disabled} hint="Another number, another noise." onChange={(seed, gesture) => onChange({ ...noise, seed: Math.round(seed) }, gesture)} />
      {share('Fine detail', 'rough', 'How strong its finer forms are.')}
      {share('Contrast', 'contrast', 'How sharply light and dark part.')}
      {share('Least value', 'floor', 'Its gaps are never emptier than this.', 95)}
    </div>
  )
}
