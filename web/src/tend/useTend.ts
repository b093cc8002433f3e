import { useEffect, useRef } from 'react'
import { usePlants, useSpecies } from '../state/data'
import { useLayer } from '../state/scene'
import { useUi } from '../state/ui'
import type { Picked } from '../view/stage/placed'
import { useHand } from './hand'
import { ringOf, type Point } from './picking'
import { putDown } from './tool'
import { addAt, placesAt, pullOut, takeInHand } from './tending'

/** Turns the pointer over the view into plants taken in hand. */
export function useTend() {
  const { layer: id, way, set } = useHand()
  const chosen = useUi((s) => s.layer)
  const station = useUi((s) => s.station)
  const layer = useLayer(id)
  const { data: plants } = usePlants(layer)
  const { data: species } = useSpecies()
  const line = useRef<Point[] | null>(null)

  // Another layer, another station, another tool: this one is put down.
  const other = useUi((s) => s.probing || s.painting !== null || s.drawing !== null)
  useEffect(() => {
    if (id !== null && (chosen !== id || station !== 'planting' || other)) putDown()
  }, [id, chosen, station, other])
  useEffect(() => {
    if (!layer) return
    const key = (e: KeyboardEvent) => {
      if (e.target instanceof HTMLInputElement || e.target instanceof HTMLSelectElement) return
      if (e.key === 'Escape') set({ items: [], line: [] })
      if ((e.key === 'Delete' || e.key === 'Backspace') && useHand.getState().items.length > 0) pullOut(layer)
    }
    window.addEventListener('keydown', key)
    return () => window.removeEventListener('keydown', key)
  }, [layer, set])

  const heightM = Math.max(0.05, ...(layer?.mix ?? []).map((m) => species?.find((s) => s.id === m.species)?.height_m ?? 0))
  return {
    on: Boolean(layer && plants && !layer.locked),
    begin(at: Point): boolean {
      if (!layer || way !== 'around') return false
      line.current = [at]
      set({ line: line.current })
      return true
    },
    lead(at: Point) {
      if (!line.current) return
      line.current = [...line.current, at]
      set({ line: line.current })
    },
    held: () => line.current !== null,
    end(along: boolean): boolean {
      const drawn = line.current
      line.current = null
      set({ line: [] })
      if (!drawn || !layer || !plants) return drawn !== null
      if (drawn.length > 1) void takeInHand(layer, plants, placesAt(plants, heightM, ringOf(drawn)), along)
      return true
    },
    click(at: Point, ground: Picked | null, along: boolean) {
      if (!layer || !plants) return
      if (way === 'add') {
        if (ground) addAt(layer, ground)
        return
      }
      void takeInHand(layer, plants, placesAt(plants, heightM, at), along)
    },
  }
}
