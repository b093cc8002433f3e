import { useEffect, useRef } from 'react'
import { useView } from '../../state/view'

const CORNERS = 56

/** The reach of a brush on the ground under the pointer. Drawn without React while the pointer moves. */
export function BrushRing({ radiusM, falloff }: { radiusM: number; falloff: number }) {
  const halo = useRef<SVGPathElement>(null)
  const outer = useRef<SVGPathElement>(null)
  const inner = useRef<SVGPathElement>(null)

  useEffect(() => {
    const show = () => {
      const { stage, pointer } = useView.getState()
      const ring = (radius: number) => (stage && pointer ? stage.ringOnGround(pointer, radius, CORNERS) : '')
      const edge = ring(radiusM)
      halo.current?.setAttribute('d', edge)
      outer.current?.setAttribute('d', edge)
      inner.current?.setAttribute('d', ring(radiusM * (1 - falloff)))
    }
    show()
    return useView.subscribe(show)
  }, [radiusM, falloff])

  return (
    <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden data-testid="brush">
      <path ref={halo} fill="none" className="stroke-panel" strokeWidth="4" strokeOpacity="0.7" />
      <path ref={outer} fill="none" className="stroke-thrift" strokeWidth="1.8" />
      <path ref={inner} fill="none" className="stroke-thrift" strokeWidth="1" strokeDasharray="4 4" />
    </svg>
  )
}
