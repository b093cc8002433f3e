import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import type { Histogram } from '../api/buffers'
import type { Response } from '../api/client'
import { AxisMarks } from '../ui/AxisMarks'
import { showNumber } from '../ui/parse'
import { responseAt } from '../view/stage/grid'
import { ORDER, digitsFor, rounded, sameResponse, settled, type End } from './response'

export interface ResponseCurveProps {
  name: string
  unit: string
  /** Digits that values of it are told with. */
  digits: number
  histogram: Histogram
  response: Response
  disabled?: boolean
  onChange(response: Response, gesture?: string): void
  /** Whether an end is held, so that the view can show the mask. */
  onHold(held: boolean): void
}

const [W, H, PAD] = [276, 58, 7]
const NAMES: Record<End, string> = {
  start: 'starts at',
  full_from: 'full from',
  full_to: 'full to',
  end: 'ends at',
}

/** The ground's histogram with the curve over it. Its four ends can be dragged or moved by arrow keys. */
export function ResponseCurve({ name, unit, digits: own, histogram, response: known, disabled, onChange, onHold }: ResponseCurveProps) {
  const svg = useRef<SVGSVGElement>(null)
  const held = useRef<{ end: End; gesture: string } | null>(null)
  const [active, setActive] = useState<End | null>(null)
  // What is dragged shows at once; what is known of it comes back from the database.
  const [draft, setDraft] = useState<Response | null>(null)
  const response = draft ?? known
  useEffect(() => {
    if (!draft || active) return
    if (sameResponse(draft, known)) return setDraft(null)
    const given = setTimeout(() => setDraft(null), 1500)
    return () => clearTimeout(given)
  }, [draft, active, known])
  const { low, high, areas_m2: areas } = histogram
  const digits = digitsFor(own, low, high)
  // Of what lies nowhere on the ground there are no areas at all.
  const most = Math.max(1e-9, ...areas)
  const x = (v: number) => PAD + ((Math.min(high, Math.max(low, v)) - low) / (high - low)) * (W - 2 * PAD)
  const top = 6
  const base = H - 4
  // Square root: a little ground stays in sight beside a lot.
  const bar = (area: number) => Math.sqrt(area / most) * (base - top - 4)
  const yOf = (full: boolean) => (full !== response.inverted ? top : base)
  const points = [
    [PAD, response.start > low ? yOf(false) : response.full_from > low ? yOf(false) : yOf(true)],
    [x(response.start), yOf(false)],
    [x(response.full_from), yOf(true)],
    [x(response.full_to), yOf(true)],
    [x(response.end), yOf(false)],
    [W - PAD, response.end < high ? yOf(false) : response.full_to >= high ? yOf(true) : yOf(false)],
  ]
  // A band that reaches past the edge of the histogram does not drop at the edge.
  const line = points.filter(([px], i) => !((i === 1 && response.full_from <= low) || (i === 4 && response.full_to >= high) || Number.isNaN(px)))

  const valueAt = (clientX: number) => {
    const box = svg.current!.getBoundingClientRect()
    const px = ((clientX - box.left) / box.width) * W
    const value = low + ((px - PAD) / (W - 2 * PAD)) * (high - low)
    return rounded(Math.min(high, Math.max(low, value)), digits)
  }
  const down = (end: End) => (e: PointerEvent) => {
    if (disabled || e.button !== 0) return
    e.currentTarget.setPointerCapture(e.pointerId)
    held.current = { end, gesture: crypto.randomUUID() }
    setActive(end)
    onHold(true)
  }
  const move = (e: PointerEvent) => {
    if (!held.current) return
    const next = settled(response, held.current.end, valueAt(e.clientX))
    setDraft(next)
    onChange(next, held.current.gesture)
  }
  const up = () => {
    if (held.current) onHold(false)
    held.current = null
    setActive(null)
  }
  const keys = (end: End) => (e: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[e.key]
    if (!by || disabled) return
    e.preventDefault()
    const step = ((high - low) / 90) * (e.shiftKey ? 0.1 : 1)
    const value = rounded(Math.min(high, Math.max(low, response[end] + by * step)), digits + 1)
    const next = settled(response, end, value)
    setDraft(next)
    onChange(next, `keys ${name} ${end}`)
  }

  return (
    <div>
      <svg ref={svg} viewBox={`0 0 ${W} ${H}`} className="mt-1 w-full touch-none overflow-visible" data-testid="curve">
        <g aria-hidden>
          {areas.map((area, i) => {
            const value = low + ((i + 0.5) / areas.length) * (high - low)
            const wide = (W - 2 * PAD) / areas.length
            const through = responseAt(response, value)
            return (
              <rect
                key={i}
                x={PAD + i * wide + 0.3}
                width={wide - 0.6}
                y={base - bar(area)}
                height={bar(area)}
                style={{ fill: 'var(--sea)', opacity: 0.16 + 0.44 * through }}
              />
            )
          })}
          <line x1={PAD} x2={W - PAD} y1={base} y2={base} className="stroke-rule" />
          <polyline points={line.map((p) => p.join(',')).join(' ')} fill="none" className="stroke-thrift" strokeWidth="1.6" strokeLinejoin="round" />
        </g>
        {ORDER.map((end) => (
          <g key={end}>
            <circle
              cx={x(response[end])}
              cy={yOf(end.startsWith('full'))}
              r={active === end ? 5.5 : 4.2}
              className="fill-panel stroke-thrift"
              strokeWidth="1.6"
              pointerEvents="none"
            />
            {active === end && (
              <text x={x(response[end])} y={yOf(end.startsWith('full')) === top ? top + 19 : base - 11} textAnchor="middle" className="fill-ink font-mono text-[11px]" pointerEvents="none">
                {showNumber(response[end], digits)} {unit}
              </text>
            )}
            <circle
              role="slider"
              tabIndex={disabled ? -1 : 0}
              aria-label={`${name}: ${NAMES[end]}`}
              aria-valuemin={low}
              aria-valuemax={high}
              aria-valuenow={response[end]}
              aria-valuetext={`${showNumber(response[end], digits)} ${unit}`}
              aria-disabled={disabled}
              data-testid={`end-${end}`}
              cx={x(response[end])}
              cy={yOf(end.startsWith('full'))}
              r="10"
              fill="transparent"
              className="cursor-ew-resize outline-none focus-visible:stroke-thrift focus-visible:[stroke-opacity:0.35]"
              strokeWidth="3"
              onPointerDown={down(end)}
              onPointerMove={move}
              onPointerUp={up}
              onPointerCancel={up}
              onKeyDown={keys(end)}
            />
          </g>
        ))}
      </svg>
      <AxisMarks low={low} high={high} count={6} unit={unit} inset={(PAD / W) * 100} />
    </div>
  )
}
