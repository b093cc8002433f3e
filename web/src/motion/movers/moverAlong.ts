import { freshId, useScene } from '../../state/scene'
import type { Drawing } from '../../state/ui'
import { CLOCK } from '../usual'
import { FORMS, PACE, courseThrough, newBlower, newBody, nodesOf, onCourse } from './movers'

/** Makes what was drawn to move along a line of points, or gives it that line; tells which it is. */
export function moverAlong(drawing: Extract<Drawing, { what: 'mover' | 'course' }>, line: number[][]) {
  const { scene, run } = useScene.getState()
  const { blowers = [], bodies = [], motion } = scene!.document
  const length = motion?.clock?.length_s ?? CLOCK.length_s
  if (drawing.what === 'mover' && drawing.kind === 'blower') {
    const value = newBlower(line, freshId(blowers), blowers, length)
    run({ do: 'put_blower', value })
    return { what: 'blower' as const, id: value.id }
  }
  if (drawing.what === 'mover' && drawing.kind !== 'blower') {
    const form = drawing.kind === 'mesh' ? drawing.form : FORMS[drawing.kind].make
    const value = newBody(form, line, freshId(bodies), bodies, length)
    run({ do: 'put_body', value })
    return { what: 'body' as const, id: value.id }
  }
  const { of, id } = drawing as Extract<Drawing, { what: 'course' }>
  const blower = blowers.find((b) => b.id === id)
  const body = bodies.find((b) => b.id === id)
  if (of === 'blower' && blower) run({ do: 'put_blower', value: { ...blower, course: courseThrough(line, nodesOf(blower.course)[0].over_m, PACE.blower, length) } })
  if (of === 'body' && body) run({ do: 'put_body', value: onCourse(body, courseThrough(line, nodesOf(body.course)[0].over_m, PACE.body, length)) })
  return { what: of, id }
}
