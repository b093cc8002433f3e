import type { Layer, Schemas } from '../../api/client'
import { useScene } from '../../state/scene'

type Near = Schemas['Near']

interface NearFieldsProps {
  layer: Layer
  near: Near
  onChange(near: Near): void
}

/** What a distance is measured to. */
export function NearFields({ layer, near, onChange }: NearFieldsProps) {
  const document = useScene((s) => s.scene!.document)
  const choices: [string, Near, string][] = [
    ['any', { what: 'tracks' }, 'the nearest track'],
    ['any', { what: 'water' }, 'water'],
    ['any', { what: 'obstacles' }, 'the nearest obstacle'],
    ...(document.outlines ?? []).map((o): [string, Near, string] => ['Outlines', { what: 'outline', id: o.id }, o.name]),
    ...(document.obstacles ?? []).map((o): [string, Near, string] => ['Obstacles', { what: 'obstacle', id: o.id }, o.name]),
    ...document.layers.filter((l) => l.id !== layer.id).map((l): [string, Near, string] => ['Plants of', { what: 'layer', id: l.id }, l.name]),
  ]
  const key = (n: Near) => `${n.what}:${'id' in n ? n.id : ''}`
  const gone = !choices.some(([, n]) => key(n) === key(near))
  const group = (name: string) => choices.filter(([g]) => g === name)
  const options = (name: string) =>
    group(name).map(([, n, text]) => (
      <option key={key(n)} value={key(n)}>
        {text}
      </option>
    ))
  return (
    <label className="mt-1 flex items-center gap-2">
      <span className="text-xs text-soft">from</span>
      <select
        aria-label="What the distance is measured to"
        data-testid="mask-near"
        className="h-7 min-w-0 flex-1 rounded-md border border-rule bg-panel px-2"
        disabled={layer.locked}
        value={key(near)}
        onChange={(e) => onChange(choices.find(([, n]) => key(n) === e.currentTarget.value)![1])}
      >
        {gone && <option value={key(near)}>something that is gone</option>}
        {options('any')}
        {['Outlines', 'Obstacles', 'Plants of'].map((name) => group(name).length > 0 && <optgroup key={name} label={name}>{options(name)}</optgroup>)}
      </select>
    </label>
  )
}
