import { scaleLinear } from 'd3-scale'
import { marks } from './marks'

/** Round numbers below an axis, each under its place. The first and the last stay within the width of the axis. */
export function AxisMarks({ low, high, count, unit = '', inset = 0 }: { low: number; high: number; count: number; unit?: string; inset?: number }) {
  const own = axisMarks(low, high, count)
  const place = (share: number) => inset + share * (100 - 2 * inset)
  return (
    <div className="relative h-3.5 font-mono text-[10.5px] leading-3.5 text-soft" aria-hidden>
      {own.map(({ share, text }, i) => {
        const last = i === own.length - 1
        const shift = share < 0.06 ? 0 : share > 0.94 ? -100 : -50
        return (
          <span key={text} className="absolute whitespace-pre" style={{ left: `${place(share)}%`, transform: `translateX(${shift}%)` }}>
            {text}
            {last && unit && (unit === '°' ? '°' : ` ${unit}`)}
          </span>
        )
      })}
    </div>
  )
}

/** Round numbers over a span, at most so many, each with its share of the span; the ends themselves where there is no span. */
export function axisMarks(low: number, high: number, count: number): { share: number; text: string }[] {
  if (!(high > low)) return [{ share: 0.5, text: String(low) }]
  const scale = scaleLinear([low, high], [0, 1])
  const format = scale.tickFormat(count)
  // Thousands stand apart as everywhere, and a minus is one.
  return marks(low, high, count).map((at) => ({ share: scale(at), text: format(at).replace(/,/g, '\u202f').replace('-', '\u2212') }))
}
