import { create } from 'zustand'
import type { Schemas } from '../api/client'
import type { Point, Point3 } from './picking'

export type Tended = Schemas['Tended']
export type Pose = Schemas['Pose']

/** A plant in hand: as it would be set, and where it is seen. */
export interface InHand {
  /** Null while it still grows by itself. */
  id: number | null
  tended: Omit<Tended, 'id'>
  at: Point3
  footprintM: number
}

export type Way = 'one' | 'around' | 'add' | 'strew' | 'erase'

export type DriftSettings = Pick<Schemas['Drift'], 'per_m2' | 'spread_m' | 'size' | 'turn_deg'>

interface HandState {
  /** The layer that is tended; null when the tool is put down. */
  layer: number | null
  way: Way
  items: InHand[]
  /** The drift whose line is shown and whose numbers are changed. */
  chosen: number | null
  /** What the next drift begins with; null while that is up to the layer. */
  strew: DriftSettings | null
  /** Reach of the brush that pulls out, metres. */
  eraseM: number
  /** The line that is being drawn around plants, in pixels of the view. */
  line: Point[]
  set(change: Partial<HandState>): void
}

/** What is in hand while single plants are tended; not part of the scene. */
export const useHand = create<HandState>((set) => ({ layer: null, way: 'one', items: [], chosen: null, strew: null, eraseM: 0.6, line: [], set: (change) => set(change) }))
