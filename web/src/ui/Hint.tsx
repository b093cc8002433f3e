import { Tooltip } from 'radix-ui'
import type { ReactElement, ReactNode } from 'react'

export interface HintProps {
  text: ReactNode
  children: ReactElement
  side?: 'top' | 'right' | 'bottom' | 'left'
}

/** A few words beside a control: its unit, and what it does not change. */
export function Hint({ text, children, side = 'bottom' }: HintProps) {
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          side={side}
          sideOffset={6}
          className="z-50 max-w-64 rounded-md bg-ink px-2.5 py-1.5 text-xs text-paper shadow-md"
        >
          {text}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  )
}
