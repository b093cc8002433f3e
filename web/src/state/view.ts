import { create } from 'zustand'
import type { Picked } from '../view/stage/placed'
import type { Stage, Frame } from '../view/stage/stage'

interface ViewState {
  stage: Stage | null
  frame: Frame | null
  /** What is under the pointer. */
  pointer: (Picked & { laid: number | null }) | null
  /** A point that was clicked while drawing. */
  clicked: { x: number; y: number; z: number } | null
  /** A point the ground was asked about. */
  asked: Picked | null
  set(change: Partial<ViewState>): void
}

/** The living view, for the parts of the interface around it. */
export const useView = create<ViewState>((set) => ({
  stage: null,
  frame: null,
  pointer: null,
  clicked: null,
  asked: null,
  set: (change) => set(change),
}))
