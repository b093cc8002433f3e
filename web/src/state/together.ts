import type { Layer, LayerEdit, Mask } from '../api/client'
import { sourceOf } from '../sheet/masks/quantities'

/** What is each layer's own, however many are edited at once. */
const OWN: LayerEdit['set'][] = ['name', 'tend', 'drifts', 'visible', 'locked', 'kept_seeds']

/** What an edit of one layer means for the `nth` other that is edited along with it; null where it has no part in it. */
export function alongside(edit: LayerEdit, layer: Layer, other: Layer, nth: number): LayerEdit | null {
  if (OWN.includes(edit.set)) return null
  // In one arrangement layers would stand in one another's places.
  if (edit.set === 'seed') return { set: 'seed', value: (edit.value + Math.imul(nth + 1, 0x9e3779b1)) >>> 0 }
  if (edit.set === 'mask') {
    const before = layer.masks.find((m) => m.id === edit.value.id)
    const own = before && other.masks.find(alike(before))
    return own ? { set: 'mask', value: { ...edit.value, id: own.id } } : null
  }
  if (edit.set === 'masks') {
    const masks = masksAlongside(edit.value, layer, other)
    return masks && { set: 'masks', value: masks }
  }
  return edit
}

/** Masks that are added are added to the other too, and those that are taken away are taken from it; its own stay. */
function masksAlongside(wanted: Mask[], layer: Layer, other: Layer): Mask[] | null {
  const added = wanted.filter((m) => !layer.masks.some((known) => known.id === m.id) && !other.masks.some(alike(m)))
  const gone = layer.masks.filter((m) => !wanted.some((kept) => kept.id === m.id))
  const stay = other.masks.filter((m) => !gone.some(alike(m)))
  if (added.length === 0 && stay.length === other.masks.length) return null
  const first = other.masks.reduce((most, m) => Math.max(most, m.id), 0) + 1
  return [...stay, ...added.map((m, i) => ({ ...m, id: first + i }))]
}

/** Whether masks look at the same thing. */
const alike = (a: Mask) => (b: Mask) => sourceOf(a) === sourceOf(b)
