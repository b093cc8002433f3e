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

export type Way = 'one' | 'around' | 'add'

interface HandState {
  /** The layer that is tended; null when the tool is put down. */
  layer: number | null
  way: Way
  items: InHand[]
  /** The line that is being drawn around plants, in pixels of the view. */
  line: Point[]
  set(change: Partial<HandState>): void
}

/** What is in hand while single plants are tended; not part of the scene. */
export const useHand = create<HandState>((set) => ({ layer: null, way: 'one', items: [], line: [], set: (change) => set(change) }))
