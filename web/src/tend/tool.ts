import { useUi } from '../state/ui'
import { useHand } from './hand'

/** Takes the tool for single plants of a layer in hand; every other tool is put down. */
export function take(layer: number) {
  useUi.getState().set({ probing: false, painting: null, drawing: null, sculpting: null })
  useHand.getState().set({ layer, items: [], chosen: null, strew: null, line: [], way: 'one' })
}

export function putDown() {
  useHand.getState().set({ layer: null, items: [], chosen: null, line: [] })
}
