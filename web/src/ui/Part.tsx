import { useEffect, useRef, type ReactNode } from 'react'
import { useUi } from '../state/ui'

export interface PartProps {
  title: string
  /** A short word on the right: what it comes to. */
  summary?: ReactNode
  /** Settings in the specification sentence that lead here. */
  settings?: string[]
  children: ReactNode
}

/** A part of the sheet under a hairline. */
export function Part({ title, summary, settings = [], children }: PartProps) {
  const focus = useUi((s) => s.focus)
  const ref = useRef<HTMLElement>(null)
  const asked = focus !== null && settings.some((s) => s === focus.setting)

  useEffect(() => {
    if (!asked || !ref.current) return
    const target = ref.current.querySelector<HTMLElement>(`[data-setting="${focus!.setting}"]`) ?? ref.current
    target.scrollIntoView({ block: 'nearest' })
    target.querySelector<HTMLElement>('input, button, [role=slider]')?.focus()
  }, [asked, focus])

  return (
    <section ref={ref} className="border-b border-rule px-4 py-3" aria-label={title}>
      <header className="mb-2 flex items-baseline justify-between gap-3">
        <h3 className="font-semibold">{title}</h3>
        <span className="truncate text-xs text-soft">{summary}</span>
      </header>
      {children}
    </section>
  )
}
