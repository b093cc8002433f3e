export interface ColourFieldProps {
  label: string
  /** sRGB, each 0 to 1. */
  value: number[]
  disabled?: boolean
  onChange(value: number[], gesture: string): void
}

const hex = (rgb: number[]) => `#${rgb.map((c) => Math.round(Math.min(1, Math.max(0, c)) * 255).toString(16).padStart(2, '0')).join('')}`
const rgb = (text: string) => [1, 3, 5].map((at) => Number((parseInt(text.slice(at, at + 2), 16) / 255).toFixed(4)))

/** A colour, chosen with the browser's own picker. */
export function ColourField({ label, value, disabled, onChange }: ColourFieldProps) {
  return (
    <label className="flex flex-col gap-0.5 text-xs text-soft">
      {label}
      <input
        type="color" aria-label={label} value={hex(value)} disabled={disabled} onChange={(e) => onChange(rgb(e.currentTarget.value), `colour ${label}`)}
        className="h-7 w-10 cursor-pointer rounded-md border border-rule bg-panel p-0.5 disabled:opacity-50"
      />
    </label>
  )
}
