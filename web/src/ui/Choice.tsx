import { ToggleGroup } from 'radix-ui'

export interface ChoiceProps<T extends string> {
  label: string
  /** None chosen when null. */
  value: T | null
  options: { value: T; name: string; hint?: string }[]
  disabled?: boolean
  onChange(value: T): void
}

/** One of a few, all in sight. */
export function Choice<T extends string>({ label, value, options, disabled, onChange }: ChoiceProps<T>) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value ?? ''}
      disabled={disabled}
      onValueChange={(v) => v && onChange(v as T)}
      className="inline-flex overflow-hidden rounded-md border border-rule bg-panel"
    >
      {options.map((o) => (
        <ToggleGroup.Item
          key={o.value}
          value={o.value}
          title={o.hint}
          className="h-[26px] whitespace-nowrap border-l border-rule px-2.5 text-soft first:border-l-0 hover:bg-well data-[state=on]:bg-thrift-wash data-[state=on]:font-medium data-[state=on]:text-ink"
        >
          {o.name}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  )
}
