import type { LucideIcon } from 'lucide-react'
import type { ButtonHTMLAttributes } from 'react'
import { Hint } from './Hint'

export interface IconButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  icon: LucideIcon
  /** Accessible name and tooltip. */
  label: string
  on?: boolean
}

export function IconButton({ icon: Icon, label, on, className = '', ...rest }: IconButtonProps) {
  return (
    <Hint text={label}>
      <button
        type="button"
        aria-label={label}
        aria-pressed={on}
        className={`inline-flex size-6 shrink-0 items-center justify-center rounded text-soft hover:bg-well hover:text-ink disabled:opacity-35 disabled:hover:bg-transparent ${on ? 'text-thrift' : ''} ${className}`}
        {...rest}
      >
        <Icon size={14} strokeWidth={1.75} aria-hidden />
      </button>
    </Hint>
  )
}
