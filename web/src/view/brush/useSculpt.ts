import { useRef } from 'react'
import type { Command, PlacedGround } from '../../api/client'
import { beginStroke, leadOn, onGround, type Sculpting, type Stroke } from '../../site/sculpting'
import { freshId, useScene } from '../../state/scene'

interface Held {
  stroke: Stroke
  /** The ground's number; 0 is the land. */
  ground: number
  place: PlacedGround | undefined
  gesture: string
}

interface Point {
  x: number
  z: number
  ground: number
}

/** Turns the pointer on a ground into a stroke: one gesture, one step to undo, sent as it grows. */
export function useSculpt(sculpting: Sculpting | null) {
  const held = useRef<Held | null>(null)
  const { run } = useScene.getState()
  const send = ({ stroke, ground, gesture }: Held) => {
    const command: Command =
      ground === 0 ? { do: 'edit_ground', edit: { set: 'put_stroke', value: stroke } } : { do: 'put_ground_stroke', ground, value: stroke }
    return run(command, gesture, 'stroke')
  }

  return {
    /** Begins; false when nothing is to be sculpted. */
    begin(point: Point, turned: boolean): boolean {
      if (!sculpting) return false
      const { document } = useScene.getState().scene!
      const place = document.grounds?.find((g) => g.id === point.ground)
      const strokes = (place ?? document.ground).strokes ?? []
      const tool = turned ? ({ raise: 'lower', lower: 'raise' } as const)[sculpting.tool as 'raise'] ?? sculpting.tool : sculpting.tool
      const stroke = beginStroke({ ...sculpting, tool }, freshId(strokes), onGround(place, point), place?.scale)
      held.current = { stroke, ground: point.ground, place, gesture: crypto.randomUUID() }
      send(held.current)
      return true
    },
    /** Leads the stroke on; false when none is held. */
    lead(point: Point | null): boolean {
      if (!held.current) return false
      const longer = point && leadOn(held.current.stroke, onGround(held.current.place, point))
      if (longer) {
        held.current.stroke = longer
        send(held.current)
      }
      return true
    },
    held: () => held.current !== null,
    /** The ground that is sculpted right now. */
    on: () => held.current?.ground ?? null,
    end(): boolean {
      const was = held.current !== null
      held.current = null
      return was
    },
  }
}
