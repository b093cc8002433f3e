import { useId } from 'react'
import { Hint } from './Hint'

export interface SelectProps {
  label: string
  value: string
  options: string[]
  hint?: string
  onChange(value: string): void
}

/** One of several by name, where there is no room to show all. */
export function Select({ label, value, options, hint, onChange }: SelectProps) {
  const id = useId()
  const field = (
    <select
      id={id}
      value={value}
      onChange={(e) => onChange(e.currentTarget.value)}
      className="h-7 rounded-md border border-rule bg-panel px-1.5 outline-none hover:border-soft focus:border-soft"
    >
      {options.map((o) => (
        <option key={o}>{o}</option>
      ))}
    </select>
  )
  return (
    <div className="flex min-w-0 flex-col gap-0.5">
      <label htmlFor={id} className="truncate text-xs text-soft">
        {label}
      </label>
      {hint ? <Hint text={hint}>{field}</Hint> : field}
    </div>
  )
}
