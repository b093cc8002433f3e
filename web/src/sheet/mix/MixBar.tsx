import { useRef, type PointerEvent } from 'react'
import type { Species } from '../../api/client'
import { hexFromLinear } from '../../nursery/colour'
import { parts, withBorder, type MixPart } from '../../state/mix'

export interface MixBarProps {
  mix: MixPart[]
  species: Species[] | undefined
  disabled?: boolean
  onChange(mix: MixPart[], gesture: string): void
}

/** The shares of a mix on one bar; the borders between neighbours can be dragged. */
export function MixBar({ mix, species, disabled, onChange }: MixBarProps) {
  const bar = useRef<HTMLDivElement>(null)
  const dragged = useRef<{ border: number; gesture: string } | null>(null)
  const share = parts(mix)
  const starts = share.map((_, i) => share.slice(0, i).reduce((a, b) => a + b, 0))
  const lead = (e: PointerEvent) => {
    if (!dragged.current) return
    const box = bar.current!.getBoundingClientRect()
    onChange(withBorder(mix, dragged.current.border, (e.clientX - box.left) / box.width), dragged.current.gesture)
  }
  const nudge = (i: number, by: number) => onChange(withBorder(mix, i, starts[i + 1] + by), `mix border ${i}`)
  return (
    <div ref={bar} className="relative flex h-6 overflow-hidden rounded-md border border-rule" data-testid="mix-bar">
      {mix.map((m, i) => {
        const own = species?.find((s) => s.id === m.species)
        return (
          <div
            key={m.species} title={`${own?.name ?? m.species}: ${Math.round(share[i] * 100)} %`}
            style={{ width: `${share[i] * 100}%`, background: own ? hexFromLinear(own.colours.leaf) : undefined }}
            className="min-w-0 truncate px-1.5 text-[11px] leading-6 text-white [text-shadow:0_0_3px_rgb(0_0_0/.8)]"
          >
            {share[i] > 0.14 && own?.name}
          </div>
        )
      })}
      {mix.slice(1).map((m, i) => (
        <div
          key={m.species} role="slider" tabIndex={disabled ? -1 : 0} aria-label={`Border between species ${i + 1} and ${i + 2}`}
          aria-valuemin={0} aria-valuemax={100} aria-valuenow={Math.round(starts[i + 1] * 100)}
          className="absolute inset-y-0 w-3 -translate-x-1/2 cursor-ew-resize before:absolute before:inset-y-0 before:left-1/2 before:w-0.5 before:-translate-x-1/2 before:bg-panel hover:before:w-1 focus-visible:before:w-1"
          style={{ left: `${starts[i + 1] * 100}%` }}
          onPointerDown={(e) => {
            if (disabled) return
            e.currentTarget.setPointerCapture(e.pointerId)
            dragged.current = { border: i, gesture: `mix ${performance.now()}` }
          }}
          onPointerMove={lead}
          onPointerUp={() => (dragged.current = null)}
          onPointerCancel={() => (dragged.current = null)}
          onKeyDown={(e) => {
            if (e.key !== 'ArrowLeft' && e.key !== 'ArrowRight') return
            nudge(i, e.key === 'ArrowLeft' ? -0.01 : 0.01)
            e.preventDefault()
          }}
        />
      ))}
    </div>
  )
}
