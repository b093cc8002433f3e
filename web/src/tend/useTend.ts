import { useEffect, useRef } from 'react'
import { usePlants, useSpecies } from '../state/data'
import { useLayer } from '../state/scene'
import { useUi } from '../state/ui'
import type { Picked } from '../view/stage/placed'
import { useHand } from './hand'
import { beginDrift, leadDrift, putDrifts, settingsFor, type Drift } from './drifts'
import { beginErase, leadErase, type Erasing } from './erasing'
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
  const stroke = useRef<{ drift: Drift; gesture: string } | null>(null)
  const erasing = useRef<Erasing | null>(null)

  // Another layer, another station, another tool: this one is put down.
  const other = useUi((s) => s.probing || s.painting !== null || s.drawing !== null)
  useEffect(() => {
    if (id !== null && (chosen !== id || station !== 'planting' || other)) putDown()
  }, [id, chosen, station, other])
  useEffect(() => {
    if (!layer) return
    const key = (e: KeyboardEvent) => {
      if (e.target instanceof HTMLInputElement || e.target instanceof HTMLSelectElement) return
      if (e.key === 'Escape') set({ items: [], chosen: null, line: [] })
      const { chosen: drift } = useHand.getState()
      if ((e.key === 'Delete' || e.key === 'Backspace') && drift !== null && layer.drifts?.some((d) => d.id === drift)) {
        putDrifts(layer, [], undefined, [drift])
        set({ chosen: null })
      }
      if ((e.key === 'Delete' || e.key === 'Backspace') && useHand.getState().items.length > 0) pullOut(layer)
    }
    window.addEventListener('keydown', key)
    return () => window.removeEventListener('keydown', key)
  }, [layer, set])

  const heightM = Math.max(0.05, ...(layer?.mix ?? []).map((m) => species?.find((s) => s.id === m.species)?.height_m ?? 0))
  return {
    on: Boolean(layer && plants && !layer.locked),
    begin(at: Point, ground: Picked | null): boolean {
      if (!layer) return false
      if (way === 'strew' && ground) {
        const drift = beginDrift(layer, ground, settingsFor(layer))
        stroke.current = { drift, gesture: crypto.randomUUID() }
        set({ chosen: drift.id })
        putDrifts(layer, [drift], stroke.current.gesture)
        return true
      }
      if (way === 'erase' && ground) {
        erasing.current = beginErase(layer, ground, useHand.getState().eraseM)
        return true
      }
      if (way !== 'around') return false
      line.current = [at]
      set({ line: line.current })
      return true
    },
    lead(at: Point, ground: Picked | null) {
      if (stroke.current && layer && ground) {
        const longer = leadDrift(stroke.current.drift, ground)
        if (!longer) return
        stroke.current.drift = longer
        putDrifts(layer, [longer], stroke.current.gesture)
      }
      if (erasing.current && layer && ground) leadErase(erasing.current, layer, ground)
      if (!line.current) return
      line.current = [...line.current, at]
      set({ line: line.current })
    },
    held: () => line.current !== null || stroke.current !== null || erasing.current !== null,
    end(along: boolean): boolean {
      if (stroke.current || erasing.current) {
        stroke.current = null
        erasing.current = null
        return true
      }
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
