import { useEffect, useId, useLayoutEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import { Hint } from './Hint'
import { parseNumber, showNumber } from './parse'

export interface NumberFieldProps {
  label: string
  value: number
  min: number
  max: number
  /** How much one arrow key or about three pixels of a drag change it. */
  step: number
  unit?: string
  digits?: number
  /** Double-click goes back to it. */
  fallback?: number
  hint?: string
  hideLabel?: boolean
  /** Close to its neighbours, as in a table. */
  tight?: boolean
  disabled?: boolean
  testId?: string
  /** `gesture` names the drag that a value belongs to, so that it is undone as one. */
  onChange(value: number, gesture?: string): void
}

const PIXELS_PER_STEP = 3

/** A number that can be typed (with units and sums), dragged, stepped and reset. */
export function NumberField(props: NumberFieldProps) {
  const { label, value, min, max, step, unit = '', digits = 2, fallback, hint, hideLabel, tight, disabled, testId, onChange } = props
  const id = useId()
  const [text, setText] = useState<string | null>(null)
  const [dragged, setDragged] = useState<number | null>(null)
  /** What is wrong with what was typed last, in words. */
  const [wrong, setWrong] = useState<string | null>(null)
  const drag = useRef<{ x: number; from: number; gesture: string; moved: boolean } | null>(null)
  const input = useRef<HTMLInputElement>(null)
  const held = (v: number) => Math.min(max, Math.max(min, v))
  const round = (v: number) => Number(v.toFixed(Math.max(digits, 6)))

  // A value from elsewhere (undo, another person) ends the display of our own.
  useEffect(() => {
    if (!drag.current) setDragged(null)
  }, [value])

  // What a field holds is chosen whole, so that typing replaces it.
  const entered = useRef(false)
  useLayoutEffect(() => {
    if (entered.current) input.current?.select()
    entered.current = false
  }, [text])

  // A value that is taken while the field is in hand is chosen whole again: the next digits replace it.
  useLayoutEffect(() => {
    if (text === null && document.activeElement === input.current) input.current?.select()
  }, [text, value])

  const withUnit = (v: number) => `${showNumber(v, 3)}${unit ? ` ${unit}` : ''}`
  const commit = () => {
    if (text === null) return
    setText(null)
    if (text === showNumber(value, Math.max(digits, 3))) return
    const parsed = parseNumber(text, unit)
    if (parsed === null) return setWrong(`\u201c${text}\u201d is no number`)
    setWrong(parsed > max ? `The most is ${withUnit(max)}` : parsed < min ? `The least is ${withUnit(min)}` : null)
    const next = round(held(parsed))
    if (next !== value) onChange(next)
  }

  const keys = (e: KeyboardEvent) => {
    // The field stays in hand: let go of, the next keys would be those of the page.
    if (e.key === 'Enter') commit()
    else if (e.key === 'Escape') {
      setWrong(null)
      if (text === null || text === showNumber(value, Math.max(digits, 3))) input.current?.blur()
      else setText(null)
    } else if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
      e.preventDefault()
      const size = step * (e.shiftKey ? 0.1 : 1) * (e.key === 'ArrowUp' ? 1 : -1)
      onChange(round(held((text === null ? value : (parseNumber(text, unit) ?? value)) + size)), `keys ${id}`)
      setText(null)
    }
  }

  /** Whether text is being written, where the pointer chooses letters. */
  const writing = () => text !== null && document.activeElement === input.current
  const enter = () => {
    entered.current = true
    setText(showNumber(value, Math.max(digits, 3)))
  }

  const down = (e: PointerEvent) => {
    if (disabled || e.button !== 0 || writing()) return
    drag.current = { x: e.clientX, from: value, gesture: crypto.randomUUID(), moved: false }
    e.currentTarget.setPointerCapture(e.pointerId)
  }
  const move = (e: PointerEvent) => {
    const d = drag.current
    if (!d) return
    const pixels = e.clientX - d.x
    if (!d.moved && Math.abs(pixels) < 3) return
    d.moved = true
    const next = round(held(d.from + (pixels / PIXELS_PER_STEP) * step * (e.shiftKey ? 0.1 : 1)))
    setDragged(next)
    onChange(next, d.gesture)
  }
  const up = () => {
    const d = drag.current
    drag.current = null
    if (!d || d.moved) return
    if (document.activeElement === input.current) enter()
    else input.current?.focus()
  }

  const shown = text ?? showNumber(dragged ?? value, digits)
  const field = (
    <span
      className={`flex h-7 min-w-0 cursor-ew-resize items-center gap-1 rounded-md border bg-panel ${tight ? 'px-1' : 'px-2'} focus-within:cursor-text ${wrong !== null ? 'border-iron' : 'border-rule hover:border-soft'} ${disabled ? 'opacity-50' : ''}`}
      onPointerDown={down}
      onMouseDown={(e) => !writing() && e.preventDefault()}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={up}
      onDoubleClick={() => fallback !== undefined && !disabled && onChange(fallback)}
    >
      <input
        ref={input}
        id={id}
        data-testid={testId}
        className={`w-full min-w-0 cursor-[inherit] bg-transparent font-mono outline-none ${tight ? 'text-[11px] tracking-tight' : 'text-[12px]'}`}
        inputMode="decimal"
        autoComplete="off"
        disabled={disabled}
        aria-label={hideLabel ? label : undefined}
        aria-invalid={wrong !== null}
        aria-describedby={wrong === null ? undefined : `${id}-wrong`}
        data-settled={text === null}
        value={shown}
        onFocus={enter}
        onChange={(e) => {
          setText(e.currentTarget.value)
          setWrong(null)
        }}
        onBlur={commit}
        onKeyDown={keys}
      />
      {unit && <span className="shrink-0 text-xs text-soft">{unit}</span>}
    </span>
  )
  const range = `${showNumber(min, 3)} to ${showNumber(max, 3)}${unit ? ` ${unit}` : ''}`
  return (
    <div className="flex min-w-0 flex-col gap-0.5">
      {!hideLabel && (
        <label htmlFor={id} className="truncate text-xs text-soft">
          {label}
        </label>
      )}
      <Hint text={`${hint ? `${hint} ` : ''}${range}. Type, drag, or use the arrow keys; Shift is finer.`}>{field}</Hint>
      {wrong !== null && (
        <span id={`${id}-wrong`} role="status" className="text-xs text-iron">
          {wrong}
        </span>
      )}
    </div>
  )
}
