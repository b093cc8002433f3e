import { NumberField } from './NumberField'

export interface RangeFieldProps {
  label: string
  value: { min: number; max: number }
  min: number
  max: number
  step: number
  unit?: string
  digits?: number
  fallback?: { min: number; max: number }
  hint?: string
  disabled?: boolean
  testId?: string
  onChange(value: { min: number; max: number }, gesture?: string): void
}

/** From the smaller to the larger. One end pushes the other along. */
export function RangeField({ label, value, fallback, testId, onChange, hint, ...rest }: RangeFieldProps) {
  return (
    <fieldset className="flex min-w-0 flex-col gap-0.5">
      <legend className="float-left text-xs text-soft">{label}</legend>
      <div className="grid grid-cols-[1fr_auto_1fr] items-center gap-1.5">
        <NumberField
          {...rest}
          hideLabel
          hint={hint}
          label={`${label}, from`}
          testId={testId && `${testId}-min`}
          value={value.min}
          fallback={fallback?.min}
          onChange={(min, gesture) => onChange({ min, max: Math.max(min, value.max) }, gesture)}
        />
        <span className="text-soft" aria-hidden>
          –
        </span>
        <NumberField
          {...rest}
          hideLabel
          hint={hint}
          label={`${label}, to`}
          testId={testId && `${testId}-max`}
          value={value.max}
          fallback={fallback?.max}
          onChange={(max, gesture) => onChange({ min: Math.min(max, value.min), max }, gesture)}
        />
      </div>
    </fieldset>
  )
}
