import type { Layer } from '../api/client'
import { freshId, useScene } from '../state/scene'
import { useView } from '../state/view'
import type { Picked } from '../view/stage/placed'
import type { Tended } from './hand'
import { toLocal, toScene } from './tending'

/** Spots along a stroke lie so far apart, against the reach of the brush. */
const STEP = 0.6

export interface Erasing {
  layer: number
  radiusM: number
  gesture: string
  last: Picked
  /** All of the stroke so far: what is sent later takes the place of what still waits. */
  put: Tended[]
  next: number
}

/** Begins to pull out all plants of a layer under the brush. */
export function beginErase(layer: Layer, p: Picked, radiusM: number): Erasing {
  const erasing: Erasing = { layer: layer.id, radiusM, gesture: crypto.randomUUID(), last: p, put: [], next: freshId(layer.tended ?? []) }
  press(erasing, layer, p)
  return erasing
}

/** Leads the brush on; false where that adds nothing. */
export function leadErase(erasing: Erasing, layer: Layer, p: Picked): boolean {
  const { last, radiusM } = erasing
  if (p.ground !== last.ground) return false
  const far = Math.hypot(p.x - last.x, p.y - last.y, p.z - last.z)
  const steps = Math.floor(far / (radiusM * STEP))
  for (let k = 1; k <= steps; k++) {
    const t = (k * radiusM * STEP) / far
    press(erasing, layer, { ...p, x: last.x + (p.x - last.x) * t, y: last.y + (p.y - last.y) * t, z: last.z + (p.z - last.z) * t }, k === steps)
  }
  return steps > 0
}

/** A spot that stays clear, and what was set by hand within it taken back. */
function press(erasing: Erasing, layer: Layer, p: Picked, send = true) {
  const grounds = useScene.getState().scene!.document.grounds
  const { stage } = useView.getState()
  const ground = grounds?.find((g) => g.id === p.ground)
  const at = ground ? p : { ...p, y: stage?.heightAt(p.x, p.z) ?? p.y }
  erasing.last = p
  erasing.put.push({ id: erasing.next++, ground: p.ground, at_m: toLocal(ground, at), room_m: erasing.radiusM })
  for (const t of layer.tended ?? []) {
    if (!t.plant || (t.ground ?? 0) !== p.ground || erasing.put.some((o) => o.id === t.id)) continue
    const q = toScene(ground, t.at_m)
    if (Math.hypot(q.x - p.x, ground ? q.y - p.y : 0, q.z - p.z) > erasing.radiusM) continue
    // One that grew elsewhere does not come back there.
    const { plant: _, ...rest } = t
    erasing.put.push({ ...rest, room_m: 0 })
  }
  if (!send) return
  useScene.getState().editLayer(erasing.layer, { set: 'tend', put: [...erasing.put], let_go: [] }, erasing.gesture)
}
