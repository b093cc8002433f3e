import type { Layer, Schemas } from '../../api/client'
import { useScene } from '../../state/scene'
import { ShapeFields } from './ShapeFields'

type Near = Schemas['Near']

interface NearFieldsProps {
  layer: Layer
  near: Near
  /** Whether it is the way downhill that is measured: to tracks and outlines alone. */
  downhill: boolean
  onChange(near: Near, gesture?: string): void
}

/** What a distance is measured to. */
export function NearFields({ layer, near, downhill, onChange }: NearFieldsProps) {
  const document = useScene((s) => s.scene!.document)
  const all: [string, Near, string][] = [
    ['any', { what: 'tracks' }, 'the nearest track'],
    ['any', { what: 'water' }, 'water'],
    ['any', { what: 'obstacles' }, 'the nearest obstacle'],
    ...(document.outlines ?? []).map((o): [string, Near, string] => ['Outlines', { what: 'outline', id: o.id }, o.name]),
    ...(document.obstacles ?? []).map((o): [string, Near, string] => ['Obstacles', { what: 'obstacle', id: o.id }, o.name]),
    ...(document.shots ?? []).map((s): [string, Near, string] => ['Cameras', { what: 'camera', id: s.id }, s.name]),
    ['Shapes', { what: 'straight', x_m: 0, z_m: 0, bearing_deg: 90 }, 'a line, straight on'],
    ['Shapes', { what: 'cylinder', x_m: 0, z_m: 0, radius_m: 0 }, 'a point or a circle'],
    ['Shapes', { what: 'ball', at_m: [0, 0, 0], radius_m: 5 }, 'a ball'],
    ['Shapes', { what: 'box', at_m: [0, 0, 0], size_m: [20, 20, 20], turn_deg: 0 }, 'a box'],
    ...document.layers.filter((l) => l.id !== layer.id).map((l): [string, Near, string] => ['Plants of', { what: 'layer', id: l.id }, l.name]),
  ]
  const choices = all.filter(([, n]) => !downhill || n.what === 'tracks' || n.what === 'outline')
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
    <>
    <label className="mt-1 flex items-center gap-2">
      <span className="text-xs text-soft">{downhill ? 'down to' : 'from'}</span>
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
        {['Outlines', 'Obstacles', 'Plants of', 'Shapes', 'Cameras'].map((name) => group(name).length > 0 && <optgroup key={name} label={name}>{options(name)}</optgroup>)}
      </select>
    </label>
    <ShapeFields near={near} disabled={layer.locked} onChange={onChange} />
    </>
  )
}
