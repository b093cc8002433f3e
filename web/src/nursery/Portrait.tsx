import { useEffect, useRef, useState } from 'react'
import type { Species } from '../api/client'
import { useScene } from '../state/scene'
import { takeTurn } from './portraitQueue'
import { useRested } from './useRested'

export interface PortraitProps {
  species: Species
  /** Width against height. */
  wide?: number
  pixels?: number
  form?: number
  /** Forms side by side. */
  forms?: number
  figure?: boolean
  /** Taken before those that wait on the shelf. */
  urgent?: boolean
  className?: string
}

/** A picture of a species taken by the tracer that takes stills. While it changes, the last one stays. */
export function Portrait({ species, wide = 1, pixels = 176, form = 0, forms = 1, figure = false, urgent = false, className = '' }: PortraitProps) {
  const scene = useScene((s) => s.scene!.id)
  const key = useRested(species.key)
  const image = useRef<HTMLImageElement>(null)
  const done = useRef<() => void>(() => undefined)
  const [seen, setSeen] = useState(false)
  const [shown, setShown] = useState<string>()
  const query = new URLSearchParams({
    width: `${Math.round(pixels * wide)}`, height: `${pixels}`, samples: '16', form: `${form}`, forms: `${forms}`, figure: `${figure}`,
  })
  const wanted = `/api/scenes/${scene}/species/${species.id}/${key}/portrait?${query}`

  useEffect(() => {
    const watch = new IntersectionObserver((entries) => entries.some((e) => e.isIntersecting) && setSeen(true), { rootMargin: '120px' })
    watch.observe(image.current!)
    return () => watch.disconnect()
  }, [])

  useEffect(() => {
    if (!seen) return
    done.current = takeTurn(() => setShown(wanted), urgent)
    return () => done.current()
  }, [seen, wanted, urgent])

  return (
    <img
      ref={image}
      decoding="async"
      alt={`Portrait of ${species.name}`}
      style={{ aspectRatio: wide }}
      className={`block bg-well object-cover ${shown ? '' : 'opacity-0'} ${className || 'w-full'}`}
      src={shown}
      onLoad={() => done.current()}
      onError={() => {
        // What was overtaken by a later look leaves an empty frame, not a broken one.
        setShown(undefined)
        done.current()
      }}
    />
  )
}
