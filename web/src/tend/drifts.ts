import type { Layer, Schemas } from '../api/client'
import { freshId, useScene } from '../state/scene'
import { useView } from '../state/view'
import type { Picked } from '../view/stage/placed'
import { useHand, type DriftSettings } from './hand'
import type { Point3 } from './picking'
import { toLocal, toScene } from './tending'

export type Drift = Schemas['Drift']
type Triple = [number, number, number]

/** Points of one stroke, at most. */
const MOST_POINTS = 500
/** Plants of one stroke, at most. */
const MOST_PLANTS = 200_000

const groundOf = (id: number) => useScene.getState().scene!.document.grounds?.find((g) => g.id === id)
const round = (p: number[]): Triple => [Number(p[0].toFixed(3)), Number(p[1].toFixed(3)), Number(p[2].toFixed(3))]
const apart = (a: number[], b: number[]) => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2])

export const lengthOf = ({ points }: Drift): number => points.reduce((sum, p, i) => (i === 0 ? 0 : sum + apart(p, points[i - 1])), 0)

/** About how many plants it strews where all have room. */
export const expectedOf = (d: Drift): number => d.per_m2 * 2 * d.spread_m * (lengthOf(d) + d.spread_m)

/** Puts strokes into a layer, or takes them out. */
export function putDrifts(layer: Layer, put: Drift[], gesture?: string, take_out: number[] = []) {
  useScene.getState().editLayer(layer.id, { set: 'drifts', put, take_out }, gesture)
}

/** Begins a stroke where the pointer is on a ground. */
export function beginDrift(layer: Layer, p: Picked, settings: DriftSettings): Drift {
  const point = round(toLocal(groundOf(p.ground), p))
  return { id: freshId(layer.drifts ?? []), ground: p.ground, points: [point], ...settings, seed: Math.floor(Math.random() * 2 ** 31) }
}

/** The stroke led on to a point; null where that adds nothing. */
export function leadDrift(drift: Drift, p: Picked): Drift | null {
  if (p.ground !== (drift.ground ?? 0) || drift.points.length >= MOST_POINTS) return null
  const point = round(toLocal(groundOf(p.ground), p))
  if (apart(point, drift.points[drift.points.length - 1]) < Math.max(0.2, drift.spread_m * 0.4)) return null
  const longer = { ...drift, points: [...drift.points, point] }
  return expectedOf(longer) > MOST_PLANTS ? null : longer
}

/** Points of its line in the scene, on the ground as it is now. */
export function lineOf(drift: Drift): Point3[] {
  const { stage } = useView.getState()
  const ground = groundOf(drift.ground ?? 0)
  return drift.points.map((p) => {
    const at = toScene(ground, p)
    return ground ? at : { ...at, y: stage?.heightAt(at.x, at.z) ?? at.y }
  })
}

/** The stroke with one of its points moved. */
export function moveDriftPoint(drift: Drift, i: number, to: Picked): Drift {
  const points = drift.points.map((p, k) => (k === i ? round(toLocal(groundOf(drift.ground ?? 0), to)) : p))
  return { ...drift, points: points as Drift['points'] }
}

/** What a new stroke begins with: as the chosen one, or as the layer stands. */
export function settingsFor(layer: Layer): DriftSettings {
  const { chosen, strew } = useHand.getState()
  const drift = layer.drifts?.find((d) => d.id === chosen)
  if (drift) return { per_m2: drift.per_m2, spread_m: drift.spread_m, size: drift.size, turn_deg: drift.turn_deg }
  return strew ?? { per_m2: 4, spread_m: 0.8, size: layer.stance.size, turn_deg: layer.stance.turn_deg }
}
