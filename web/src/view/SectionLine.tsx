import { useUi } from '../state/ui'
import { useView } from '../state/view'

const PIECES = 80

/** Where the section is cut, drawn on the ground. */
export function SectionLine() {
  const section = useUi((s) => (s.drawer === 'section' ? s.section : null))
  const stage = useView((s) => s.stage)
  useView((s) => s.frame)
  if (!section || !stage) return null
  const points = Array.from({ length: PIECES + 1 }, (_, i) => {
    const x = section.from[0] + ((section.to[0] - section.from[0]) * i) / PIECES
    const z = section.from[1] + ((section.to[1] - section.from[1]) * i) / PIECES
    const y = stage.heightAt(x, z)
    return y === null ? null : stage.project({ x, y, z })
  }).filter((p) => p !== null)
  const path = points.map((p) => `${p.x},${p.y}`).join(' ')
  const [a, b] = [points[0], points.at(-1)]
  return (
    <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden>
      <polyline points={path} fill="none" className="stroke-panel" strokeWidth="4" strokeOpacity="0.6" />
      <polyline points={path} fill="none" className="stroke-ink" strokeWidth="1.4" strokeDasharray="9 3 2 3" />
      {a && <Letter at={a} text="A" />}
      {b && <Letter at={b} text="B" />}
    </svg>
  )
}

function Letter({ at, text }: { at: { x: number; y: number }; text: string }) {
  return (
    <g transform={`translate(${at.x} ${at.y})`}>
      <circle r="9" className="fill-panel stroke-ink" strokeWidth="1.2" />
      <text textAnchor="middle" y="4" className="fill-ink font-mono text-[11px]">
        {text}
      </text>
    </g>
  )
}
