import { useEffect, useRef, useState } from 'react'

export interface TextFieldProps {
  label: string
  value: string
  className?: string
  autoFocus?: boolean
  onCommit(value: string): void
  onCancel?(): void
}

/** A line of text, taken at Enter or when left; Escape puts the old one back. */
export function TextField({ label, value, className = '', autoFocus, onCommit, onCancel }: TextFieldProps) {
  const [text, setText] = useState(value)
  const input = useRef<HTMLInputElement>(null)
  const cancelled = useRef(false)
  useEffect(() => setText(value), [value])
  useEffect(() => {
    if (!autoFocus) return
    // Not every browser gives the keyboard to what is selected.
    input.current?.focus()
    input.current?.select()
  }, [autoFocus])

  const commit = () => {
    const next = text.trim()
    if (cancelled.current || next === '' || next === value) {
      setText(value)
      onCancel?.()
    } else onCommit(next)
    cancelled.current = false
  }
  return (
    <input
      ref={input}
      aria-label={label}
      maxLength={80}
      className={`min-w-0 rounded-md border border-transparent bg-transparent px-1 outline-none hover:border-rule focus:border-soft focus:bg-panel ${className}`}
      value={text}
      onChange={(e) => setText(e.currentTarget.value)}
      onBlur={commit}
      onKeyDown={(e) => {
        e.stopPropagation()
        if (e.key === 'Escape') cancelled.current = true
        if (e.key === 'Enter' || e.key === 'Escape') e.currentTarget.blur()
      }}
    />
  )
}
