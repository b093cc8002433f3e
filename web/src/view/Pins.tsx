import { X } from 'lucide-react'
import { useUi } from '../state/ui'
import { useView } from '../state/view'
import { IconButton } from '../ui/IconButton'

/** Plants that were found, each with a pin. */
export function Pins() {
  const pins = useUi((s) => s.pins)
  const set = useUi((s) => s.set)
  const stage = useView((s) => s.stage)
  useView((s) => s.frame)
  if (!pins || !stage) return null
  const seen = pins.places.flatMap(([x, y, z]) => {
    const at = stage.project({ x, y, z })
    return at ? [at] : []
  })
  return (
    <>
      <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden data-testid="pins" data-count={seen.length}>
        {seen.map((at, i) => (
          <g key={i} transform={`translate(${at.x.toFixed(1)} ${at.y.toFixed(1)})`}>
            <path d="M0 0 V-13" className="stroke-panel" strokeWidth="4" strokeLinecap="round" />
            <path d="M0 0 V-13" className="stroke-thrift" strokeWidth="1.6" />
            <circle cy="-15" r="3.6" className="fill-thrift stroke-panel" strokeWidth="1.4" />
          </g>
        ))}
      </svg>
      <p className="absolute top-23 left-3 flex max-w-[70%] items-center gap-2 rounded-md border border-rule bg-panel py-1 pr-1 pl-3 shadow">
        {pins.name}
        <IconButton icon={X} label="Take the pins out" onClick={() => set({ pins: null })} />
      </p>
    </>
  )
}
