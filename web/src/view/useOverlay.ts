import { useEffect, useMemo } from 'react'
import type { GroundBuffer, Histogram } from '../api/buffers'
import { useReading } from '../state/data'
import { useLayer } from '../state/scene'
import { useUi } from '../state/ui'
import { READINGS } from './readings'
import { responseAt } from './stage/grid'
import type { Overlay } from './stage/overlay'

/** What lies over the ground, with what its legend says. */
export interface Laid extends Overlay {
  title: string
  unit: string
  histogram: Histogram | null
}

/** The mask whose curve is being dragged, or else the quantity that is being read. */
export function useLaid(ground: GroundBuffer | undefined): Laid | null {
  const shown = useUi((s) => s.maskShown)
  const layer = useLayer(shown?.layer ?? null)
  const mask = layer?.masks.find((m) => m.id === shown?.mask)
  const reading = useUi((s) => s.reading)
  const { data } = useReading()

  return useMemo(() => {
    if (!ground) return null
    if (mask && layer) {
      const quantity = mask.quantity === 'slope' ? ground.slopes : ground.heights
      const values = quantity.map((v) => responseAt(mask.response, v))
      return { values, low: 0, high: 1, scale: 'rising', unit: '', histogram: null, title: `${layer.name} let through by ${mask.quantity}` }
    }
    if (!reading || !data || data.reading !== reading || data.nx !== ground.nx || data.nz !== ground.nz) return null
    const { values, histogram, scale, unit } = data
    return { values, low: histogram.low, high: histogram.high, scale, unit, histogram, title: READINGS[reading].name }
  }, [ground, mask, layer, reading, data])
}

/** Lays it over the ground of the stage. */
export function useOverlay(stage: { lay(overlay: Overlay | null, withPlants: boolean): void } | null, laid: Laid | null, ground: unknown) {
  const withPlants = useUi((s) => s.reading === null || s.readWithPlants || s.maskShown !== null)
  useEffect(() => stage?.lay(laid, withPlants || laid === null), [stage, laid, ground, withPlants])
}
