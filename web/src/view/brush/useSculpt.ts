import { useRef } from 'react'
import { beginStroke, leadOn, type Sculpting, type Stroke } from '../../site/sculpting'
import { freshId, useScene } from '../../state/scene'

interface Held {
  stroke: Stroke
  gesture: string
}

/** Turns the pointer on the ground into a stroke: one gesture, one step to undo, sent as it grows. */
export function useSculpt(sculpting: Sculpting | null) {
  const held = useRef<Held | null>(null)
  const { run } = useScene.getState()
  const send = ({ stroke, gesture }: Held) =>
    run({ do: 'edit_ground', edit: { set: 'put_stroke', value: stroke } }, gesture, 'stroke')

  return {
    /** Begins; false when nothing is to be sculpted. */
    begin(point: { x: number; z: number }, turned: boolean): boolean {
      if (!sculpting) return false
      const strokes = useScene.getState().scene!.document.ground.strokes ?? []
      const tool = turned ? ({ raise: 'lower', lower: 'raise' } as const)[sculpting.tool as 'raise'] ?? sculpting.tool : sculpting.tool
      held.current = { stroke: beginStroke({ ...sculpting, tool }, freshId(strokes), [point.x, point.z]), gesture: crypto.randomUUID() }
      send(held.current)
      return true
    },
    /** Leads the stroke on; false when none is held. */
    lead(point: { x: number; z: number } | null): boolean {
      if (!held.current) return false
      const longer = point && leadOn(held.current.stroke, [point.x, point.z])
      if (longer) {
        held.current.stroke = longer
        send(held.current)
      }
      return true
    },
    held: () => held.current !== null,
    end(): boolean {
      const was = held.current !== null
      held.current = null
      return was
    },
  }
}
