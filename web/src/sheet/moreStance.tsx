import type { Layer, Schemas } from '../api/client'
import { useSpecies } from '../state/data'
import { useScene } from '../state/scene'
import { Choice } from '../ui/Choice'
import { NumberField } from '../ui/NumberField'
import { RangeField } from '../ui/RangeField'
import { Switch } from '../ui/Switch'

interface FieldProps {
  layer: Layer
}

const edit = () => useScene.getState().editLayer
const ONE = { min: 1, max: 1 }
const NONE = { min: 0, max: 0 }

const SPREADS: { value: Schemas['SizeSpread']; name: string; hint: string }[] = [
  { value: 'even', name: 'Even', hint: 'Every size is equally common.' },
  { value: 'middle', name: 'Middle', hint: 'Most near the middle of the range.' },
  { value: 'small', name: 'Many small', hint: 'Few large ones, as stones and seedlings are.' },
  { value: 'large', name: 'Many large', hint: 'Few small ones, as a stand that has closed.' },
]

/** How sizes lie within their range. */
export function SizesField({ layer }: FieldProps) {
  return (
    <div className="flex flex-col gap-0.5 text-xs text-soft">
      How sizes lie in that range
    <Choice label="How sizes lie in their range" value={layer.stance.sizes ?? 'even'} options={SPREADS} disabled={layer.locked}
      onChange={(value) => edit()(layer.id, { set: 'sizes', value })} />
    </div>
  )
}

/** Height and depth against size. */
export function StretchFields({ layer }: FieldProps) {
  const field = (label: string, key: 'tall' | 'deep', hint: string) => (
    <RangeField label={label} testId={key} value={layer.stance[key] ?? ONE} fallback={ONE} min={0.25} max={4} step={0.02} unit="×" disabled={layer.locked} hint={hint}
      onChange={(value, gesture) => edit()(layer.id, { set: key, value }, gesture)} />
  )
  return (
    <>
      {field('Height against size', 'tall', 'Stretches plants along their stem, each by its own number.')}
      {field('Depth against size', 'deep', 'Stretches plants from front to back.')}
    </>
  )
}

/** What the kinds of a layer allow at most; the widest of them counts for the fields. */
export function useMost(layer: Layer): Schemas['MostStance'] {
  const { data } = useSpecies()
  const own = (data ?? []).filter((s) => layer.mix.some((m) => m.species === s.id)).map((s) => s.most)
  const most = (key: keyof Schemas['MostStance'], all: number) => (layer.stance.beyond || own.length === 0 ? all : Math.max(...own.map((m) => m[key])))
  return { tilt_deg: most('tilt_deg', 180), tumble: most('tumble', 1), lean_deg: most('lean_deg', 90) }
}

export function TumbleField({ layer }: FieldProps) {
  const most = useMost(layer)
  return (
    <NumberField label="Tumbled" testId="tumble" unit="%" value={(layer.stance.tumble ?? 0) * 100} min={0} max={most.tumble * 100} step={1} digits={0} fallback={0} disabled={layer.locked || most.tumble === 0}
      hint={most.tumble === 0 ? 'This kind does not tumble. “Beyond its kind” lets it.' : 'At 100 they lie any way at all, as they fell.'}
      onChange={(v, gesture) => edit()(layer.id, { set: 'tumble', value: v / 100 }, gesture)} />
  )
}

/** How far plants lean, and which way. */
export function LeanFields({ layer }: FieldProps) {
  const most = useMost(layer)
  const deg = layer.stance.lean_deg ?? 0
  const lean = layer.stance.lean ?? { to: 'downhill' as const }
  const change = (part: { deg?: number; value?: Schemas['LeanTo'] }, gesture?: string) => edit()(layer.id, { set: 'lean', deg, value: lean, ...part }, gesture)
  return (
    <div className="grid grid-cols-3 items-end gap-2">
      <NumberField label="Lean" testId="lean" unit="°" value={deg} min={-most.lean_deg} max={most.lean_deg} step={0.5} digits={1} fallback={0} disabled={layer.locked}
        hint="How far all of them lean; below zero the other way. Downhill it is in full from 30° of slope on." onChange={(d, gesture) => change({ deg: d }, gesture)} />
      <Choice label="Which way they lean" value={lean.to} disabled={layer.locked}
        options={[{ value: 'downhill', name: 'Down', hint: 'Down the slope.' }, { value: 'bearing', name: 'One way', hint: 'All the same way, as the wind leans them.' }]}
        onChange={(to) => change({ value: to === 'downhill' ? { to } : { to, deg: 90 } })} />
      {lean.to === 'bearing' && (
        <NumberField label="Towards" testId="lean-bearing" unit="°" value={lean.deg} min={-360} max={360} step={1} digits={0} disabled={layer.locked}
          hint="Degrees clockwise from north: 90 leans east." onChange={(to, gesture) => change({ value: { to: 'bearing', deg: to } }, gesture)} />
      )}
    </div>
  )
}

export function LiftField({ layer }: FieldProps) {
  return (
    <RangeField label="Height above the ground" testId="lift" value={layer.stance.lift_m ?? NONE} fallback={NONE} min={0} max={100} step={0.05} unit="m" disabled={layer.locked}
      hint="How far above the ground, plant by plant." onChange={(value, gesture) => edit()(layer.id, { set: 'lift', value }, gesture)} />
  )
}

export function ShiftField({ layer }: FieldProps) {
  return (
    <NumberField label="Shifted, up to" testId="shift" unit="m" value={layer.stance.shift_m ?? 0} min={0} max={10} step={0.01} digits={2} fallback={0} disabled={layer.locked}
      hint="Any way along the ground. Breaks up rows and layouts; the plants are the same." onChange={(value, gesture) => edit()(layer.id, { set: 'shift', value }, gesture)} />
  )
}

/** Whether tilt, tumble and lean may go beyond what fits each kind. */
export function BeyondField({ layer }: FieldProps) {
  const most = useMost({ ...layer, stance: { ...layer.stance, beyond: false } })
  return (
    <label className="flex items-center gap-2 text-xs text-soft">
      <Switch label="More than its kind can take" on={layer.stance.beyond ?? false} disabled={layer.locked} onChange={(value) => edit()(layer.id, { set: 'beyond', value })} />
      More than its kind can take: as it is, it tilts up to {most.tilt_deg}°{most.tumble > 0 ? '' : ', does not tumble'} and leans up to {most.lean_deg}°.
    </label>
  )
}
