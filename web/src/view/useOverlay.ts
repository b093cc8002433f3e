import { useEffect, useMemo } from 'react'
import type { GroundBuffer, Histogram } from '../api/buffers'
import type { Layer } from '../api/client'
import { useAllPlaced, useReading } from '../state/data'
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

/** The mask whose curve is being dragged. A zone is seen by its own lines. */
function useMaskShown() {
  const shown = useUi((s) => s.maskShown)
  const layer = useLayer(shown?.layer ?? null)
  const mask = layer?.masks.find((m) => m.id === shown?.mask)
  return layer && mask && mask.quantity !== 'zone' ? { layer, mask } : null
}

const grows = (layer: Layer, ground: number) => (layer.grounds ?? []).length === 0 || layer.grounds!.includes(ground)

/** What lies over the land: the mask whose curve is being dragged, or else the quantity that is being read. */
export function useLaid(ground: GroundBuffer | undefined): Laid | null {
  const shown = useMaskShown()
  const [layer, mask] = [shown?.layer, shown?.mask]
  const reading = useUi((s) => s.reading)
  const { data } = useReading()

  return useMemo(() => {
    if (!ground) return null
    if (mask && layer) {
      const quantity = mask.quantity === 'slope' ? ground.slopes : ground.heights
      const values = grows(layer, 0) ? quantity.map((v) => responseAt(mask.response, v)) : new Float32Array(quantity.length)
      return { values, low: 0, high: 1, scale: 'rising', unit: '', histogram: null, title: `${layer.name} let through by ${mask.quantity}` }
    }
    if (!reading || !data || data.reading !== reading || data.nx !== ground.nx || data.nz !== ground.nz) return null
    const { values, histogram, scale, unit } = data
    return { values, low: histogram.low, high: histogram.high, scale, unit, histogram, title: READINGS[reading].name }
  }, [ground, mask, layer, reading, data])
}

/** What lies over the mesh grounds beside the land, on the same scale. */
export function useLaidPlaced(laid: Laid | null): Map<number, Overlay> {
  const shown = useMaskShown()
  const [layer, mask] = [shown?.layer, shown?.mask]
  const reading = useUi((s) => s.reading)
  const grounds = useAllPlaced()
  return useMemo(() => {
    const out = new Map<number, Overlay>()
    if (!laid) return out
    for (const g of grounds) {
      if (g.kind !== 'mesh') continue
      const values = (quantity: string) => (quantity === 'slope' ? g.data.slopes : g.data.altitudes)
      if (mask && layer) {
        if (grows(layer, g.id)) out.set(g.id, { ...laid, values: values(mask.quantity).map((v) => responseAt(mask.response, v)) })
      } else if (reading === 'slope' || reading === 'altitude') {
        out.set(g.id, { ...laid, values: values(reading) })
      }
    }
    return out
  }, [laid, grounds, mask, layer, reading])
}

/** Lays it over the grounds of the stage. */
export function useOverlay(
  stage: { lay(overlay: Overlay | null, withPlants: boolean, placed: Map<number, Overlay>): void } | null, laid: Laid | null, ground: unknown,
) {
  const withPlants = useUi((s) => s.reading === null || s.readWithPlants || s.maskShown !== null)
  const placed = useLaidPlaced(laid)
  useEffect(() => stage?.lay(laid, withPlants || laid === null, placed), [stage, laid, ground, withPlants, placed])
}
