import { X } from 'lucide-react'
import { useReadings } from '../state/data'
import { useUi } from '../state/ui'
import { AxisMarks } from '../ui/AxisMarks'
import { IconButton } from '../ui/IconButton'
import { rampCss } from './ramps'
import { READINGS } from './readings'
import type { Laid } from './useOverlay'

const [W, H] = [208, 34]

/** What the colours on the ground mean, under the histogram of the ground itself. */
export function Legend({ laid }: { laid: Laid | null }) {
  const reading = useUi((s) => s.reading)
  const held = useUi((s) => s.maskShown !== null)
  const set = useUi((s) => s.set)
  const withPlants = useUi((s) => s.readWithPlants)
  const { isFetching, error } = useReadings()
  if (!laid && !reading) return null
  const title = laid?.title ?? READINGS[reading!].name
  const areas = laid?.histogram?.areas_m2 ?? []
  const most = Math.max(1e-9, ...areas)

  return (
    <figure
      aria-label={`Legend: ${title}`}
      data-testid="legend"
      className="absolute bottom-19 left-3 z-10 rounded-md border border-rule bg-panel/94 px-2.5 pt-1 pb-1.5 shadow-sm"
      style={{ width: W + 22 }}
    >
      <figcaption className="flex min-h-6 items-center justify-between gap-1 leading-4">
        <span className="font-medium">
          {title}
          {laid?.unit && <span className="font-normal text-soft"> {laid.unit}</span>}
        </span>
        {!held && <IconButton icon={X} label="Take it off the ground" className="size-5!" onClick={() => set({ reading: null })} />}
      </figcaption>
      {error && <p className="text-xs text-iron">{error.message}</p>}
      {!laid && isFetching && <p className="py-1 text-xs text-soft">Reading the ground…</p>}
      {laid && (
        <>
          {areas.length > 0 && (
            <svg viewBox={`0 0 ${W} ${H}`} className="block w-full" aria-hidden>
              {areas.map((area, i) => {
                const height = Math.sqrt(area / most) * (H - 2)
                const wide = W / areas.length
                return <rect key={i} x={i * wide} y={H - height} width={wide - 0.4} height={height} className="fill-sea" opacity={0.55} />
              })}
            </svg>
          )}
          <div className="h-2 rounded-sm" style={{ background: rampCss(laid.scale) }} />
          {laid.scale === 'round' ? (
            <div className="flex justify-between font-mono text-[10.5px] leading-3.5 text-soft" aria-hidden>
              {['N', 'E', 'S', 'W', 'N'].map((t, i) => (
                <span key={i}>{t}</span>
              ))}
            </div>
          ) : (
            <AxisMarks low={laid.low} high={laid.high} count={5} />
          )}
          {!held && (
            <label className="mt-0.5 flex items-center gap-1.5 text-xs text-soft">
              <input
                type="checkbox"
                className="accent-thrift"
                checked={withPlants}
                onChange={(e) => set({ readWithPlants: e.currentTarget.checked })}
              />
              Show the plants too
            </label>
          )}
          {held && <p className="text-[11px] leading-4 text-soft">0 nothing grows, 1 everything may</p>}
        </>
      )}
    </figure>
  )
}
