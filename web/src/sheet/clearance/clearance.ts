import type { Layer, Schemas } from '../../api/client'
import { useScene } from '../../state/scene'

export type Clearance = Required<Schemas['Clearance']>
export type Keep = Schemas['Keep']
export type Kept = 'own' | 'others' | 'obstacles' | 'edges' | 'tracks'

export type Sided = 'obstacles' | 'edges' | 'tracks'

const NOTHING: Keep = { by: 'nothing', margin_m: 0, response: 'remove' }

/** What a layer keeps clear of; one that says nothing keeps clear of nothing. */
export function clearanceOf({ clearance: own }: Layer): Clearance {
  return { own: NOTHING, others: NOTHING, obstacles: NOTHING, edges: NOTHING, tracks: NOTHING, least: 0.3, ...own }
}

export function changeKeep(layer: Layer, of: Kept, part: Partial<Keep>, gesture?: string) {
  const now = clearanceOf(layer)
  useScene.getState().editLayer(layer.id, { set: 'clearance', value: { ...now, [of]: { ...now[of], ...part } } }, gesture)
}

export type Way = 'yields' | 'together' | 'claims'

/** How a layer stands to another: it yields, the other does, or neither. */
export function wayOf(layer: number, other: number, yieldsTo: (id: number) => number[]): Way {
  if (yieldsTo(layer).includes(other)) return 'yields'
  return yieldsTo(other).includes(layer) ? 'claims' : 'together'
}

/** Says how two layers stand to each other; what follows from the profile anyway is not written down. */
export function sayWay(order: number[], said: Schemas['Yield'][], layer: number, other: number, way: Way): Schemas['Command'] | null {
  const usual: Way = order.indexOf(layer) > order.indexOf(other) ? 'yields' : 'claims'
  const written = said.some((y) => (y.layer === layer && y.to === other) || (y.layer === other && y.to === layer))
  if (way === usual) return written ? { do: 'remove_yield', layer, to: other } : null
  if (way === 'claims') return { do: 'put_yield', value: { layer: other, to: layer, yields: true } }
  return { do: 'put_yield', value: { layer, to: other, yields: way === 'yields' } }
}
