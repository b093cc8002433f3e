import { useRef, type PointerEvent } from 'react'
import { directionName } from './winds'

const SIZE = 88
const RIM = 30

/** A dial for where the wind comes from: drag the vane round. */
export function Compass({ value, onChange }: { value: number; onChange(value: number, gesture?: string): void }) {
  const gesture = useRef<string | null>(null)
  const lead = (e: PointerEvent<SVGSVGElement>) => {
    if (!gesture.current) return
    const box = e.currentTarget.getBoundingClientRect()
    const [x, y] = [e.clientX - box.left - box.width / 2, e.clientY - box.top - box.height / 2]
    if (Math.hypot(x, y) < 4) return
    onChange(Math.round((Math.atan2(x, -y) * 180) / Math.PI + 360) % 360, gesture.current)
  }
  const turn = (by: number) => onChange((value + by + 360) % 360)
  return (
    <svg
      width={SIZE} height={SIZE} viewBox={`${-SIZE / 2} ${-SIZE / 2} ${SIZE} ${SIZE}`} role="slider" tabIndex={0}
      aria-label="Where the wind comes from" aria-valuemin={0} aria-valuemax={360} aria-valuenow={value} aria-valuetext={directionName(value)}
      data-testid="compass" className="shrink-0 cursor-pointer touch-none rounded-full outline-offset-2"
      onPointerDown={(e) => {
        gesture.current = crypto.randomUUID()
        e.currentTarget.setPointerCapture(e.pointerId)
        lead(e)
      }}
      onPointerMove={lead}
      onPointerUp={() => (gesture.current = null)}
      onKeyDown={(e) => {
        const by = { ArrowRight: 5, ArrowUp: 5, ArrowLeft: -5, ArrowDown: -5 }[e.key]
        if (!by) return
        e.preventDefault()
        turn(by)
      }}
    >
      <circle r={RIM} className="fill-well stroke-rule" />
      {['N', 'E', 'S', 'W'].map((name, i) => (
        <text key={name} x={Math.sin((i * Math.PI) / 2) * 38} y={-Math.cos((i * Math.PI) / 2) * 38 + 3.5} textAnchor="middle" className="fill-soft text-[10px]">
          {name}
        </text>
      ))}
      {/* The vane flies with the wind: its head where that comes from. */}
      <g transform={`rotate(${value})`} className="text-sea">
        <path d={`M0 ${-RIM + 2} L6 ${-RIM + 15} L1.6 ${-RIM + 12.5} L1.6 14 L6 22 L0 18.5 L-6 22 L-1.6 14 L-1.6 ${-RIM + 12.5} L-6 ${-RIM + 15} Z`} fill="currentColor" />
      </g>
    </svg>
  )
}
