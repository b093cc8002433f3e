import type { Response } from '../../api/client'
import { NumberField } from '../../ui/NumberField'

interface AspectFieldsProps {
  response: Response
  disabled: boolean
  onChange(response: Response, gesture?: string): void
}

const WINDS = ['north', 'north-east', 'east', 'south-east', 'south', 'south-west', 'west', 'north-west']

/** A band of directions by its middle and its reach: it may run past north, where four ends would be hard to read. */
export function AspectFields({ response: r, disabled, onChange }: AspectFieldsProps) {
  const middle = (((r.full_from + r.full_to) / 2) % 360 + 360) % 360
  const half = (r.full_to - r.full_from) / 2
  const fade = Math.max(r.end - r.full_to, r.full_from - r.start)
  const band = (m: number, h: number, f: number, gesture?: string) =>
    onChange({ ...r, start: m - h - f, full_from: m - h, full_to: m + h, end: m + h + f }, gesture)
  return (
    <div className="mt-1.5 grid grid-cols-3 gap-1">
      <NumberField label={`faces ${WINDS[Math.round(middle / 45) % 8]}`} testId="aspect-middle" unit="°" value={middle} min={0} max={360} step={1} digits={0} disabled={disabled}
        hint="The way it faces, clockwise from north." onChange={(m, gesture) => band(m, half, fade, gesture)} />
      <NumberField label="give or take" testId="aspect-half" unit="°" value={half} min={0} max={180} step={1} digits={0} disabled={disabled}
        hint="How far to either side all may grow." onChange={(h, gesture) => band(middle, h, fade, gesture)} />
      <NumberField label="fading over" testId="aspect-fade" unit="°" value={fade} min={0} max={90} step={1} digits={0} disabled={disabled}
        hint="From there on it thins out to nothing." onChange={(f, gesture) => band(middle, half, f, gesture)} />
    </div>
  )
}
