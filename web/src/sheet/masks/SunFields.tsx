import type { Schemas } from '../../api/client'
import { NumberField } from '../../ui/NumberField'
import { Select } from '../../ui/Select'
import { MONTHS, inMonth } from './sunDay'

interface SunFieldsProps {
  sun: Schemas['SunDay']
  disabled: boolean
  onChange(sun: Schemas['SunDay'], gesture?: string): void
}

/** The day and the latitude whose sun a mask looks at. */
export function SunFields({ sun, disabled, onChange }: SunFieldsProps) {
  return (
    <div className="mt-1 grid grid-cols-3 gap-x-2">
      <NumberField label="Day" testId="sun-day" value={sun.day} min={1} max={MONTHS[sun.month - 1].days} step={1} digits={0} disabled={disabled}
        onChange={(day, gesture) => onChange({ ...sun, day: Math.round(day) }, gesture)} />
      <Select label="Month" value={MONTHS[sun.month - 1].name} options={MONTHS.map((m) => m.name)} onChange={(name) => onChange(inMonth(sun, MONTHS.findIndex((m) => m.name === name) + 1))} />
      <NumberField label={sun.latitude_deg < 0 ? 'Latitude, south' : 'Latitude, north'} testId="sun-latitude" unit="°" value={sun.latitude_deg} min={-90} max={90} step={0.5} digits={1} disabled={disabled}
        hint="North of the equator; below zero south of it. A small planet has latitudes of its own." onChange={(latitude_deg, gesture) => onChange({ ...sun, latitude_deg }, gesture)} />
    </div>
  )
}
