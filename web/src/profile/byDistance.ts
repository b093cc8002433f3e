import type { Command, Document, Layer, Mask, Shot } from '../api/client'
import { NEVER_ENDS } from '../sheet/masks/quantities'
import { freshId } from '../state/scene'

/** How dense each band is against the layer. */
const BANDS = [
  { name: 'near', dense: 1 },
  { name: 'middle', dense: 0.5 },
  { name: 'far', dense: 0.2 },
] as const
/** Bands fade into one another over this share of where they meet. */
const FADE = 0.15

/** The amount, so many times as dense. */
export function times(amount: Layer['amount'], k: number): Layer['amount'] {
  const round = (v: number) => Number(v.toPrecision(4))
  switch (amount.unit) {
    case 'total':
      return { unit: 'total', value: Math.round(amount.value * k) }
    case 'spacing':
      return { unit: 'spacing', value_m: round(amount.value_m / Math.sqrt(k)) }
    default:
      return { ...amount, value: round(amount.value * k) }
  }
}

/** How far from the camera near becomes middle, and middle far, metres: by how far it looks. */
function borders({ eye_m: eye, target_m: target }: Shot): [number, number] {
  const away = Math.hypot(...eye.map((v, i) => v - target[i]))
  return [away * 0.5, away * 1.1].map((v) => Number(v.toPrecision(2))) as [number, number]
}

/** Parts a layer into three by the distance from a shot's camera, each with its own density, as one group and one step. */
export function byDistance(document: Document, layer: Layer, shot: Shot): { command: Command; ids: number[] } {
  const [first, second] = borders(shot)
  const ends = [
    [0, 0, first * (1 - FADE), first * (1 + FADE)],
    [first * (1 - FADE), first * (1 + FADE), second * (1 - FADE), second * (1 + FADE)],
    [second * (1 - FADE), second * (1 + FADE), NEVER_ENDS, NEVER_ENDS],
  ]
  const group = layer.group ?? layer.name
  const known = [...document.layers]
  const kept = layer.masks.filter((m) => !(m.near?.what === 'camera' && m.near.id === shot.id))
  const parts = BANDS.map(({ name, dense }, i): Layer => {
    const [start, full_from, full_to, end] = ends[i].map((v) => Number(v.toFixed(2)))
    const mask: Mask = { id: freshId(kept), quantity: 'distance', enabled: true, near: { what: 'camera', id: shot.id }, response: { start, full_from, full_to, end, inverted: false } }
    const id = i === 0 ? layer.id : freshId(known)
    // In one arrangement those of the middle would stand in the places of those that are near.
    const seed = (layer.seed + Math.imul(i, 0x9e3779b1)) >>> 0
    const own = { ...layer, id, seed, name: `${layer.name}, ${name}`.slice(0, 80), group, amount: times(layer.amount, dense), masks: [...kept, mask] }
    known.push(own)
    return i === 0 ? own : { ...own, tended: [], drifts: [] }
  })
  const place = document.layers.findIndex((l) => l.id === layer.id)
  const [near, ...others] = parts
  const edit = (edit: Extract<Command, { do: 'edit_layer' }>['edit']): Command => ({ do: 'edit_layer', id: layer.id, edit })
  return {
    command: {
      do: 'all',
      commands: [
        edit({ set: 'name', value: near.name }), edit({ set: 'group', value: group }), edit({ set: 'masks', value: near.masks }),
        ...others.map((other, i): Command => ({ do: 'add_layer', layer: other, place: place + 1 + i })),
      ],
    },
    ids: parts.map((p) => p.id),
  }
}
