import { useRef } from 'react'
import { beginPaint, leadPaint, type PaintStroke, type Painting } from '../../sheet/masks/painting'
import { freshId, useScene } from '../../state/scene'

interface Point {
  x: number
  y: number
  z: number
}

/** Turns the pointer on a ground into a stroke of the brush: one gesture, one step to undo, sent as it grows. */
export function usePaint(painting: Painting | null) {
  const held = useRef<{ stroke: PaintStroke; gesture: string; paint: number } | null>(null)
  const { run } = useScene.getState()
  const send = () => {
    const { stroke, gesture, paint } = held.current!
    run({ do: 'put_paint_stroke', paint, value: stroke }, gesture, 'paint')
  }
  return {
    /** Begins; false when there is no brush in hand. */
    begin(p: Point, turned: boolean, pressure: number | null): boolean {
      const paint = painting && useScene.getState().scene!.document.paints?.find((o) => o.id === painting.paint)
      if (!paint) return false
      const tool = turned ? ({ add: 'erase', erase: 'add', soften: 'soften' } as const)[painting.tool] : painting.tool
      held.current = { stroke: beginPaint({ ...painting, tool }, freshId(paint.strokes ?? []), [p.x, p.y, p.z], pressure), gesture: crypto.randomUUID(), paint: paint.id }
      send()
      return true
    },
    lead(p: Point | null, pressure: number | null) {
      const longer = held.current && p && leadPaint(held.current.stroke, [p.x, p.y, p.z], pressure)
      if (!longer) return
      held.current!.stroke = longer
      send()
    },
    held: () => held.current !== null,
    end(): boolean {
      const was = held.current !== null
      held.current = null
      return was
    },
  }
}
