import { Slider } from 'radix-ui'
import { useEffect, useRef, useState } from 'react'
import { SEASONS, seasonName } from './kinds'

export interface SeasonSliderProps {
  label: string
  /** Said where there is little room. */
  short?: string
  /** 0 spring to 4 dead. */
  value: number
  className?: string
  onChange(value: number, gesture?: string): void
}

/** The year from spring to death on one line. */
export function SeasonSlider({ label, short, value, className = '', onChange }: SeasonSliderProps) {
  const [held, setHeld] = useState<number | null>(null)
  const gesture = useRef('')
  /** All that the keys set while the slider is in hand is undone as one. */
  const keys = useRef('')
  useEffect(() => setHeld(null), [value])
  const shown = held ?? value
  return (
    <div className={`flex flex-col gap-1 ${className}`}>
      <span className="flex justify-between text-xs text-soft">
        {short ?? label}
        <span className="text-ink">{seasonName(shown)}</span>
      </span>
      <Slider.Root
        min={0}
        max={4}
        step={0.05}
        value={[shown]}
        onPointerDown={() => (gesture.current = crypto.randomUUID())}
        onFocus={() => (keys.current = crypto.randomUUID())}
        onKeyDown={() => (gesture.current = keys.current)}
        onValueChange={([v]) => {
          setHeld(v)
          onChange(v, gesture.current || undefined)
        }}
        className="relative flex h-5 items-center"
      >
        <Slider.Track className="relative h-1 flex-1 rounded-full bg-linear-to-r from-[#8fb35a] via-[#c2803a] to-[#6b675f]">
          {SEASONS.map((s, i) => (
            <span key={s} aria-hidden className="absolute top-1/2 size-1 -translate-1/2 rounded-full bg-panel" style={{ left: `${i * 25}%` }} />
          ))}
        </Slider.Track>
        <Slider.Thumb
          aria-label={label}
          aria-valuetext={seasonName(shown)}
          className="block size-3.5 rounded-full border-2 border-sea bg-panel outline-none focus-visible:ring-2 focus-visible:ring-thrift/50"
        />
      </Slider.Root>
    </div>
  )
}
