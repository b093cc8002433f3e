import { useRef, type PointerEvent } from 'react'
import { useLayer } from '../state/scene'
import { useView } from '../state/view'
import { lineOf, moveDriftPoint, putDrifts, type Drift } from './drifts'
import { useHand } from './hand'

/** Of a long line only so many points are taken hold of. */
const MOST_HANDLES = 40

/** The lines of a layer's drifts while it is tended; the chosen one with its points to take hold of. */
export function DriftLines() {
  const { layer: id, chosen, way, set } = useHand()
  const layer = useLayer(id)
  const stage = useView((s) => s.stage)
  useView((s) => s.frame)
  const held = useRef<{ drift: Drift; point: number; gesture: string } | null>(null)
  if (!layer || !stage || !layer.drifts?.length) return null

  const down = (drift: Drift, point: number) => (e: PointerEvent<SVGElement>) => {
    e.stopPropagation()
    e.currentTarget.setPointerCapture(e.pointerId)
    held.current = { drift, point, gesture: crypto.randomUUID() }
  }
  const move = (e: PointerEvent<SVGElement>) => {
    if (!held.current) return
    const box = e.currentTarget.ownerSVGElement!.getBoundingClientRect()
    const to = stage.pick(e.clientX - box.left, e.clientY - box.top)
    const { drift, point, gesture } = held.current
    if (to && to.ground === (drift.ground ?? 0)) putDrifts(layer, [moveDriftPoint(drift, point, to)], gesture)
  }
  const up = () => (held.current = null)

  return (
    <svg className="pointer-events-none absolute inset-0 size-full" role="group" aria-label="Drifts" data-testid="drift-lines" data-count={layer.drifts.length}>
      {layer.drifts.map((drift) => {
        const points = lineOf(drift).map((p) => stage.project(p))
        const seen = points.filter((p) => p !== null)
        if (seen.length === 0) return null
        const d = seen.length === 1 ? `M${seen[0].x} ${seen[0].y}h0.1` : `M${seen.map((p) => `${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join('L')}`
        const own = drift.id === chosen
        const every = Math.ceil(points.length / MOST_HANDLES)
        return (
          <g key={drift.id} data-testid={`drift-${drift.id}`}>
            <path d={d} fill="none" strokeLinecap="round" strokeLinejoin="round" className="stroke-panel" strokeWidth={own ? 5 : 4} strokeOpacity="0.8" />
            <path d={d} fill="none" strokeLinecap="round" strokeLinejoin="round" className={own ? 'stroke-thrift' : 'stroke-ink'} strokeWidth={own ? 2.2 : 1.4} strokeDasharray={own ? undefined : '1 5'} />
            {/* A wide line to take hold of, where no stroke is being drawn. */}
            {!own && way !== 'strew' && way !== 'erase' && (
              <path d={d} fill="none" stroke="transparent" strokeWidth="16" className="pointer-events-auto cursor-pointer" onPointerDown={(e) => { e.stopPropagation(); set({ chosen: drift.id, items: [] }) }} />
            )}
            {/* While strokes are drawn, one may begin where the last one ended. */}
            {own && way !== 'strew' && way !== 'erase' && points.map((p, i) => p && (i % every === 0 || i === points.length - 1) && (
              <circle
                key={i} cx={p.x} cy={p.y} r="5.5" role="button" tabIndex={0} aria-label={`Point ${i + 1} of drift ${drift.id}; drag to move`} data-testid={`drift-point-${i}`}
                className="pointer-events-auto cursor-move fill-panel stroke-thrift outline-none focus-visible:stroke-ink" strokeWidth="2"
                onPointerDown={down(drift, i)} onPointerMove={move} onPointerUp={up} onPointerCancel={up}
              />
            ))}
          </g>
        )
      })}
    </svg>
  )
}
