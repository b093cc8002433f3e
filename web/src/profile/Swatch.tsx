import { useId } from 'react'
import { keyOf } from './keyColour'

/** A layer's key: a colour and a pattern. */
export function Swatch({ layerId }: { layerId: number }) {
  const id = useId()
  const { colour, pattern } = keyOf(layerId)
  return (
    <svg viewBox="0 0 16 16" className="size-4 shrink-0" aria-hidden>
      <defs>
        <pattern id={id} width="8" height="8" patternUnits="userSpaceOnUse">
          <rect width="8" height="8" fill={colour} />
          <path d={pattern} fill="none" stroke="#fff" strokeOpacity=".75" strokeWidth="1.2" />
        </pattern>
      </defs>
      <rect x=".5" y=".5" width="15" height="15" rx="3" fill={`url(#${id})`} stroke={colour} />
    </svg>
  )
}
