import type { Schemas } from '../../api/client'
import { Switch } from '../../ui/Switch'
import { showCount } from '../../ui/parse'
import type { Plan } from './draft'

interface PartsChoiceProps {
  parts: Schemas['PartInspection'][]
  /** Names of those that are taken; all of them when empty. */
  taken: string[]
  each: boolean
  onChange(change: Partial<Plan>): void
}

/** Which parts of a file are taken, and whether each is a form of its own. */
export function PartsChoice({ parts, taken, each, onChange }: PartsChoiceProps) {
  if (parts.length < 2) return null
  const labels = parts.map((p) => p.label)
  const is = (label: string) => taken.length === 0 || taken.includes(label)
  const toggle = (label: string) => {
    const next = labels.filter((l) => (l === label ? !is(l) : is(l)))
    // The last one stays.
    if (next.length > 0) onChange({ parts: next.length === labels.length ? [] : next })
  }
  return (
    <div className="flex flex-col gap-2">
      <ul aria-label="Parts to take" className="flex max-h-28 flex-wrap gap-1 overflow-y-auto">
        {parts.map(({ label, triangles, material }) => (
          <li key={label}>
            <button
              type="button" aria-pressed={is(label)} title={`${showCount(triangles)} triangles${material && `, ${material}`}`}
              className={`h-6 max-w-40 truncate rounded-full border px-2 text-xs ${is(label) ? 'border-thrift bg-thrift-wash' : 'border-rule text-soft line-through'}`}
              onClick={() => toggle(label)}
            >
              {label}
            </button>
          </li>
        ))}
      </ul>
      <label className="flex items-center gap-2">
        <Switch label="Each part is a form of its own" on={each} onChange={(on) => onChange({ each: on })} />
        Each part is a form of its own
      </label>
    </div>
  )
}
