import { Switch as RadixSwitch } from 'radix-ui'

export interface SwitchProps {
  label: string
  on: boolean
  disabled?: boolean
  onChange(on: boolean): void
}

export function Switch({ label, on, disabled, onChange }: SwitchProps) {
  return (
    <RadixSwitch.Root
      aria-label={label}
      checked={on}
      disabled={disabled}
      onCheckedChange={onChange}
      className="relative h-4 w-7 shrink-0 rounded-full bg-soft/60 data-[state=checked]:bg-fern"
    >
      <RadixSwitch.Thumb className="block size-3 translate-x-0.5 rounded-full bg-panel transition-transform data-[state=checked]:translate-x-3.5" />
    </RadixSwitch.Root>
  )
}
