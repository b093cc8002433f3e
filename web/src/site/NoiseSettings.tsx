import { Dices } from 'lucide-react'
import { useScene } from '../state/scene'
import { Button } from '../ui/Button'
import { NumberField } from '../ui/NumberField'
import { DEFAULT_NOISE, samplesFor, type NoiseGround } from './noise'

const FIELDS: {
  key: 'size_m' | 'relief_m' | 'feature_m' | 'ruggedness' | 'ridges' | 'valleys' | 'terraces' | 'terrace_m' | 'coast' | 'samples'
  label: string
  unit: string
  min: number
  max: number
  step: number
  digits: number
  percent?: boolean
  hint: string
}[] = [
  { key: 'size_m', label: 'Size', unit: 'm', min: 10, max: 4000, step: 5, digits: 0, hint: 'Length of each side.' },
  { key: 'relief_m', label: 'Relief', unit: 'm', min: 0, max: 1000, step: 0.5, digits: 1, hint: 'From the lowest to the highest land.' },
  { key: 'feature_m', label: 'Width of hills', unit: 'm', min: 1, max: 4000, step: 2, digits: 0, hint: 'Across the largest forms.' },
  { key: 'ruggedness', label: 'Ruggedness', unit: '%', min: 0, max: 100, step: 1, digits: 0, percent: true, hint: 'How strong the small forms are.' },
  { key: 'ridges', label: 'Ridges', unit: '%', min: 0, max: 100, step: 1, digits: 0, percent: true, hint: 'How far hills are drawn up into sharp ridges.' },
  { key: 'valleys', label: 'Valleys', unit: '%', min: 0, max: 100, step: 1, digits: 0, percent: true, hint: 'How deep winding valleys are cut.' },
  { key: 'terraces', label: 'Terraces', unit: '%', min: 0, max: 100, step: 1, digits: 0, percent: true, hint: 'How far the land is stepped.' },
  { key: 'terrace_m', label: 'Terrace height', unit: 'm', min: 0.1, max: 200, step: 0.1, digits: 1, hint: 'From one terrace to the next.' },
  { key: 'coast', label: 'Sea coast', unit: '%', min: 0, max: 100, step: 1, digits: 0, percent: true, hint: 'Cliffs to the west and a cove; 0 is inland.' },
  { key: 'samples', label: 'Heights along a side', unit: '', min: 33, max: 4096, step: 32, digits: 0, hint: 'How finely the ground is worked out; about one a metre is taken when the size changes. The forms stay the same.' },
]

/** The settings of ground made from noise. */
export function NoiseSettings() {
  const source = useScene((s) => s.scene!.document.ground.source)
  const { run } = useScene.getState()
  if (source.kind !== 'noise') return null
  const change = (part: Partial<NoiseGround>, gesture?: string) =>
    run({ do: 'edit_ground', edit: { set: 'source', value: { ...source, ...part } } }, gesture, gesture && 'noise')

  return (
    <div className="grid grid-cols-2 gap-2">
      {FIELDS.map(({ key, percent, ...field }) => (
        <NumberField
          key={key}
          {...field}
          testId={`noise-${key}`}
          value={percent ? Math.round((source[key] ?? 0) * 1000) / 10 : (source[key] ?? DEFAULT_NOISE[key]!)}
          fallback={percent ? DEFAULT_NOISE[key]! * 100 : DEFAULT_NOISE[key]}
          onChange={(v, gesture) =>
            change({ [key]: percent ? v / 100 : key === 'samples' ? Math.round(v) : v, ...(key === 'size_m' && { samples: samplesFor(v) }) }, gesture)
          }
        />
      ))}
      <div className="grid grid-cols-[1fr_auto] items-end gap-1.5">
        <NumberField
          label="Seed"
          testId="noise-seed"
          value={source.seed}
          min={0}
          max={4294967295}
          step={1}
          digits={0}
          hint="Another number, another ground."
          onChange={(seed, gesture) => change({ seed: Math.round(seed) }, gesture)}
        />
        <Button aria-label="Another ground" onClick={() => change({ seed: (source.seed + 1) % 4294967296 })}>
          <Dices size={14} aria-hidden />
        </Button>
      </div>
    </div>
  )
}
