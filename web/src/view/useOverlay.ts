import { useEffect, useMemo } from 'react'
import type { GroundBuffer, Histogram } from '../api/buffers'
import type { Layer } from '../api/client'
import { useAllPlaced, useReading } from '../state/data'
import { useLayer } from '../state/scene'
import { useUi } from '../state/ui'
import { QUANTITIES } from '../sheet/masks/quantities'
import { useMaskQuantity } from '../sheet/masks/useMaskQuantity'
import { READINGS } from './readings'
import { respond } from './stage/grid'
import type { Overlay } from './stage/overlay'

/** What lies over the ground, with what its legend says. */
export interface Laid extends Overlay {
  title: string
  unit: string
  histogram: Histogram | null
}

/** The mask whose curve is being dragged, or that is pinned to the ground. */
function useMaskShown() {
  const shown = useUi((s) => s.maskShown)
  const layer = useLayer(shown?.layer ?? null)
  const mask = layer?.masks.find((m) => m.id === shown?.mask)
  return layer && mask ? { layer, mask } : null
}

const grows = (layer: Layer, ground: number) => (layer.grounds ?? []).length === 0 || layer.grounds!.includes(ground)

/** What lies over the land: the mask whose curve is being dragged, or else the quantity that is being read. */
export function useLaid(ground: GroundBuffer | undefined): Laid | null {
  const shown = useMaskShown()
  const [layer, mask] = [shown?.layer, shown?.mask]
  const reading = useUi((s) => s.reading)
  const { data } = useReading()
  const read = useMaskQuantity(layer, mask)

  return useMemo(() => {
    if (!ground) return null
    if (mask && layer) {
      const quantity = { slope: ground.slopes, altitude: ground.heights }[mask.quantity as string] ?? read.get(0)?.values
      if (grows(layer, 0) && quantity?.length !== ground.heights.length) return null
      const values = grows(layer, 0) ? quantity!.map((v) => respond(mask, v)) : new Float32Array(ground.heights.length)
      const by = mask.quantity === 'painted' ? 'where painted' : `by ${QUANTITIES[mask.quantity].name.toLowerCase()}`
      const title = `${layer.name} let through ${by}`
      return { values, low: 0, high: 1, scale: 'rising', unit: '', histogram: null, title }
    }
    if (!reading || !data || data.reading !== reading || data.nx !== ground.nx || data.nz !== ground.nz) return null
    const { values, histogram, scale, unit } = data
    return { values, low: histogram.low, high: histogram.high, scale, unit, histogram, title: READINGS[reading].name }
  }, [ground, mask, layer, reading, data, read])
}

/** What lies over the mesh grounds beside the land, on the same scale. */
export function useLaidPlaced(laid: Laid | null): Map<number, Overlay> {
  const shown = useMaskShown()
  const [layer, mask] = [shown?.layer, shown?.mask]
  const reading = useUi((s) => s.reading)
  const grounds = useAllPlaced()
  const read = useMaskQuantity(layer, mask)
  return useMemo(() => {
    const out = new Map<number, Overlay>()
    if (!laid) return out
    for (const g of grounds) {
      if (g.kind !== 'mesh') continue
      const values = (quantity: string) => (quantity === 'slope' ? g.data.slopes : g.data.altitudes)
      if (mask && layer) {
        const own = mask.quantity === 'slope' || mask.quantity === 'altitude' ? values(mask.quantity) : read.get(g.id)?.values
        if (own && grows(layer, g.id)) out.set(g.id, { ...laid, values: own.map((v) => respond(mask, v)) })
      } else if (reading === 'slope' || reading === 'altitude') {
        out.set(g.id, { ...laid, values: values(reading) })
      }
    }
    return out
  }, [laid, grounds, mask, layer, reading, read])
}

/** Lays it over the grounds of the stage. */
export function useOverlay(
  stage: { lay(overlay: Overlay | null, withPlants: boolean, placed: Map<number, Overlay>): void } | null, laid: Laid | null, ground: unknown,
) {
  const withPlants = useUi((s) => s.reading === null || s.readWithPlants || s.maskShown !== null)
  const placed = useLaidPlaced(laid)
  useEffect(() => stage?.lay(laid, withPlants || laid === null, placed), [stage, laid, ground, withPlants, placed])
}
