import type { Command, Document, Outline } from '../../api/client'
import { freshId } from '../../state/scene'
import { growBy } from '../../site/outlines/growBy'
import { nodesOf, type Body } from './movers'

/** How far to either side it presses down, metres, as in rookery-core/src/document/moving.rs. */
export function pressOf({ form }: Body): number {
  switch (form.kind) {
    case 'barrel': return Math.max(form.radius_m, form.length_m / 2)
    case 'ball': case 'buoy': return form.radius_m
    default: return form.size_m / 2
  }
}

/** Room beside it, as a share of what it presses down. */
const ROOM = 1.25
/** Nodes of a line round it. */
const ROUND = 12

const round = (v: number) => Number(v.toFixed(2))

/** Keeps plants clear of a body: of its path by a track, of where it stands by a line round it that no layer grows in. Both are outlines like any other. */
export function keepClear(document: Document, body: Body): Command {
  const nodes = nodesOf(body.course)
  const room = pressOf(body) * ROOM
  const id = freshId(document.outlines ?? [])
  if (nodes.length > 1) {
    return { do: 'put_outline', value: { id, kind: 'track', name: `Way of ${body.name}`, nodes: nodes.map((n) => [n.x_m, n.z_m]), smooth: true, soft_m: 0, width_m: round(Math.max(0.05, 2 * room)) } }
  }
  const ring = Array.from({ length: ROUND }, (_, k) => {
    const a = (k / ROUND) * 2 * Math.PI
    return [round(nodes[0].x_m + room * Math.cos(a)), round(nodes[0].z_m + room * Math.sin(a))]
  })
  const outline: Outline = { id, kind: 'clearing', name: `Round ${body.name}`, nodes: ring, smooth: true, soft_m: 0, width_m: 1 }
  const layers = document.layers.filter((l) => !l.locked)
  const by = growBy({ ...document, outlines: [...(document.outlines ?? []), outline] }, outline, 'out', layers)
  return { do: 'all', commands: [{ do: 'put_outline', value: outline }, ...(by.do === 'all' ? by.commands : [by])] }
}
