import { useEffect, useRef, useState } from 'react'
import type { Species } from '../api/client'
import { useScene } from '../state/scene'
import { loadSpecies } from '../view/stage/species'
import { TurntableStage } from './turntableStage'

/** The chosen species in the round: turns by itself, is turned by dragging. */
export function Turntable({ species }: { species: Species }) {
  const scene = useScene((s) => s.scene!.id)
  const canvas = useRef<HTMLCanvasElement>(null)
  const stage = useRef<TurntableStage | null>(null)
  const [form, setForm] = useState(0)
  const drag = useRef<number | null>(null)
  const forms = Array.from({ length: Math.min(species.forms, 12) }, (_, i) => i)
  const shown = form % species.forms

  useEffect(() => {
    stage.current = new TurntableStage(canvas.current!)
    return () => {
      stage.current?.dispose()
      stage.current = null
    }
  }, [])

  useEffect(() => {
    let current = true
    void loadSpecies(scene, species).then(
      (look) => current && stage.current?.show(look, shown),
      () => undefined,
    )
    return () => {
      current = false
    }
  }, [scene, species, shown])

  return (
    <div className="mt-2">
      <canvas
        ref={canvas}
        data-testid="turntable"
        aria-label={`${species.name}, form ${shown + 1}, turning`}
        className="h-52 w-full cursor-grab touch-none rounded-md bg-well active:cursor-grabbing"
        onPointerDown={(e) => {
          drag.current = e.clientX
          e.currentTarget.setPointerCapture(e.pointerId)
        }}
        onPointerMove={(e) => {
          if (drag.current === null) return
          stage.current?.turn((e.clientX - drag.current) * 0.012)
          drag.current = e.clientX
        }}
        onPointerUp={() => (drag.current = null)}
        onPointerCancel={() => (drag.current = null)}
      />
      <div className="mt-1 flex items-center gap-1" role="group" aria-label="Form shown">
        <span className="mr-1 text-xs text-soft">Form</span>
        {forms.map((f) => (
          <button
            key={f}
            type="button"
            aria-pressed={f === shown}
            onClick={() => setForm(f)}
            className={`size-5 rounded font-mono text-[11px] ${f === shown ? 'bg-thrift-wash font-medium text-ink' : 'text-soft hover:bg-well'}`}
          >
            {f + 1}
          </button>
        ))}
      </div>
    </div>
  )
}
