import { KINDS } from '../nursery/kinds'
import { useSpecies } from '../state/data'

export interface SpeciesChoiceProps {
  label: string
  value: string
  /** Those that cannot be chosen: they are in the mix already. */
  taken?: string[]
  disabled?: boolean
  onChange(species: string): void
}

/** One species of the nursery, by kind. */
export function SpeciesChoice({ label, value, taken = [], disabled, onChange }: SpeciesChoiceProps) {
  const { data } = useSpecies()
  return (
    <select
      aria-label={label}
      value={value}
      disabled={disabled}
      onChange={(e) => onChange(e.currentTarget.value)}
      className="h-7 min-w-0 flex-1 rounded-md border border-rule bg-panel px-1.5 outline-none hover:border-soft focus:border-soft disabled:opacity-50"
    >
      {value === '' && <option value="">Choose a species</option>}
      {KINDS.map((k) => {
        const own = (data ?? []).filter((s) => s.kind === k.id)
        return own.length === 0 ? null : (
          <optgroup key={k.id} label={k.name}>
            {own.map((s) => (
              <option key={s.id} value={s.id} disabled={taken.includes(s.id) && s.id !== value}>
                {s.name}
              </option>
            ))}
          </optgroup>
        )
      })}
    </select>
  )
}
