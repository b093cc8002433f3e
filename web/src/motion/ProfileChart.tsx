import { scaleLinear, scaleSqrt } from 'd3-scale'
import type { Schemas } from '../api/client'
import { showNumber } from '../ui/parse'

const WIDE = 292
const TALL = 96

/** Mean speed over height, with what grows as the bar it dies away in. */
export function ProfileChart({ facts }: { facts: Schemas['MotionFacts'] }) {
  const { profile, canopy_m: canopy } = facts
  const top = profile[profile.length - 1]
  const x = scaleLinear([0, Math.ceil(top.speed_m_per_s)], [30, WIDE - 8])
  const y = scaleSqrt([0, top.height_m], [TALL - 16, 6])
  const path = [`M${x(0)} ${y(0)}`, ...profile.map((p) => `L${x(p.speed_m_per_s).toFixed(1)} ${y(p.height_m).toFixed(1)}`)].join(' ')
  return (
    <figure className="mt-3">
      <svg width="100%" viewBox={`0 0 ${WIDE} ${TALL}`} role="img" aria-label={`Mean speed over height: ${profile.map((p) => `${showNumber(p.speed_m_per_s, 1)} m/s at ${p.height_m} m`).join(', ')}`}>
        <rect x={30} y={y(Math.min(canopy, top.height_m))} width={WIDE - 38} height={y(0) - y(Math.min(canopy, top.height_m))} className="fill-fern/15" />
        {[1, 5, 10, 20].map((h) => (
          <g key={h}>
            <line x1={30} x2={WIDE - 8} y1={y(h)} y2={y(h)} className="stroke-rule" strokeDasharray="2 3" />
            <text x={26} y={y(h) + 3} textAnchor="end" className="fill-soft font-mono text-[9px]">{h} m</text>
          </g>
        ))}
        {x.ticks(4).filter((v) => x(v) < WIDE - 36).map((v) => (
          <text key={v} x={x(v)} y={TALL - 4} textAnchor="middle" className="fill-soft font-mono text-[9px]">{v}</text>
        ))}
        <text x={WIDE - 8} y={TALL - 4} textAnchor="end" className="fill-soft text-[9px]">m/s</text>
        <path d={path} fill="none" className="stroke-sea" strokeWidth={1.75} />
      </svg>
      <figcaption className="text-xs text-soft">
        What grows is {showNumber(canopy, 2)} m high on average, and takes the wind out of what stands in it.
      </figcaption>
    </figure>
  )
}
