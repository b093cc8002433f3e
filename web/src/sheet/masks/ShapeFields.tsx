import type { Schemas } from '../../api/client'
import { NumberField } from '../../ui/NumberField'

type Near = Schemas['Near']

interface ShapeFieldsProps {
  near: Near
  disabled: boolean
  onChange(near: Near, gesture?: string): void
}

interface Field {
  label: string
  unit: string
  low: number
  high: number
  value: number
  set(v: number): Near
}

const metres = (label: string, value: number, set: (v: number) => Near, low = -100_000, high = 100_000): Field => ({ label, unit: 'm', low, high, value, set })
const degrees = (label: string, value: number, set: (v: number) => Near): Field => ({ label, unit: '°', low: -360, high: 360, value, set })
const at = <T extends { at_m: number[] }>(near: T & Near, k: number) => (v: number) => ({ ...near, at_m: near.at_m.map((o, i) => (i === k ? v : o)) }) as Near
const AXES = ['east', 'up', 'south']

/** The numbers of a shape that only the mask has; none for what stands in the scene. */
function fields(near: Near): Field[] {
  switch (near.what) {
    case 'straight':
      return [
        metres('Line at, east', near.x_m, (x_m) => ({ ...near, x_m })),
        metres('south', near.z_m, (z_m) => ({ ...near, z_m })),
        degrees('Rises towards', near.bearing_deg, (bearing_deg) => ({ ...near, bearing_deg })),
      ]
    case 'cylinder':
      return [
        metres('Middle, east', near.x_m, (x_m) => ({ ...near, x_m })),
        metres('south', near.z_m, (z_m) => ({ ...near, z_m })),
        metres('Radius', near.radius_m, (radius_m) => ({ ...near, radius_m }), 0, 20_000),
      ]
    case 'ball':
      return [...AXES.map((axis, k) => metres(`Middle, ${axis}`, near.at_m[k], at(near, k))), metres('Radius', near.radius_m, (radius_m) => ({ ...near, radius_m }), 0, 20_000)]
    case 'box':
      return [
        ...AXES.map((axis, k) => metres(`Middle, ${axis}`, near.at_m[k], at(near, k))),
        ...['Width', 'Height', 'Depth'].map((name, k) => metres(name, near.size_m[k], (v) => ({ ...near, size_m: near.size_m.map((o, i) => (i === k ? v : o)) }), 0, 20_000)),
        degrees('Turn', near.turn_deg, (turn_deg) => ({ ...near, turn_deg })),
      ]
    default:
      return []
  }
}

/** Where a gradient or a volume lies. */
export function ShapeFields({ near, disabled, onChange }: ShapeFieldsProps) {
  const all = fields(near)
  if (all.length === 0) return null
  return (
    <div className="mt-1 grid grid-cols-3 gap-x-2 gap-y-1" data-testid="shape-fields">
      {all.map((f) => (
        <NumberField key={f.label} label={f.label} unit={f.unit} value={f.value} min={f.low} max={f.high} step={f.unit === 'm' ? 0.5 : 1} digits={f.unit === 'm' ? 1 : 0} disabled={disabled}
          onChange={(v, gesture) => onChange(f.set(v), gesture)} />
      ))}
    </div>
  )
}
