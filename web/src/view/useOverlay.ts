import { useEffect, useMemo } from 'react'
import { joined } from '../sheet/histograms'
import type { GroundBuffer, Histogram, ReadingBuffer } from '../api/buffers'
import type { Layer } from '../api/client'
import { useAllPlaced, useReadings } from '../state/data'
import { useLayer, useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { QUANTITIES } from '../sheet/masks/quantities'
import { useMaskQuantity } from '../sheet/masks/useMaskQuantity'
import { READINGS } from './readings'
import { respond } from './stage/grid'
import type { Overlay } from './stage/overlay'
import type { PlacedBuffer } from './stage/placed'

/** What lies over the grounds, with what its legend says. */
export interface Laid extends Omit<Overlay, 'values'> {
  title: string
  unit: string
  histogram: Histogram | null
  /** The values by ground, the land as 0: at the samples or vertices of its buffer. */
  over: Map<number, Float32Array>
}

/** The mask whose curve is being dragged, or that is pinned to the ground. */
function useMaskShown() {
  const shown = useUi((s) => s.maskShown)
  const layer = useLayer(shown?.layer ?? null)
  const mask = layer?.masks.find((m) => m.id === shown?.mask)
  return layer && mask ? { layer, mask } : null
}

const grows = (layer: Layer, ground: number) => (layer.grounds ?? []).length === 0 || layer.grounds!.includes(ground)

/** Slope and altitude come with a ground's buffer: at its samples or vertices. */
function ownValues(buffer: PlacedBuffer, quantity: string): Float32Array | undefined {
  if (quantity === 'slope') return buffer.data.slopes
  if (quantity !== 'altitude') return undefined
  if (buffer.kind === 'mesh') return buffer.data.altitudes
  const { heights, altitude, low_m } = buffer.data
  // Heights are in the ground's own frame.
  return heights.map((h) => h + altitude.low - low_m)
}

const pointsOf = ({ kind, data }: PlacedBuffer) => (kind === 'mesh' ? data.vertices : data.nx * data.nz)

/** A bearing from a ground's own north, from north. */
export const turned = (values: Float32Array, turnDeg: number) => (turnDeg === 0 ? values : values.map((v) => (((v + turnDeg) % 360) + 360) % 360))

/** Readings of several grounds on one scale. */
export function readTogether(readings: ReadingBuffer[]): Pick<Laid, 'low' | 'high' | 'scale' | 'unit' | 'histogram'> | null {
  const parts = readings.map((r) => r.histogram)
  if (readings.length > 1 && readings[0].scale === 'about_zero') {
    // Zero stays in the middle of the scale.
    const most = Math.max(...parts.flatMap((h) => [-h.low, h.high]))
    parts.push({ low: -most, high: most, areas_m2: parts[0].areas_m2.map(() => 0) })
  }
  const histogram = joined(parts)
  return histogram && { low: histogram.low, high: histogram.high, scale: readings[0].scale, unit: readings[0].unit, histogram }
}

/** What lies over the grounds: the mask whose curve is being dragged, or else the quantity that is being read. */
export function useLaid(land: GroundBuffer | undefined): Laid | null {
  const shown = useMaskShown()
  const [layer, mask] = [shown?.layer, shown?.mask]
  const reading = useUi((s) => s.reading)
  const { data: readings } = useReadings()
  const read = useMaskQuantity(layer, mask)
  const placed = useAllPlaced()
  const absent = useScene((s) => s.scene?.document.ground.absent) ?? false
  const stands = useScene((s) => s.scene?.document.grounds)

  return useMemo(() => {
    const grounds: (PlacedBuffer & { id: number })[] = [...(land && !absent ? [{ id: 0, kind: 'terrain' as const, data: land }] : []), ...placed]
    const over = new Map<number, Float32Array>()
    if (mask && layer) {
      for (const g of grounds) {
        const values = ownValues(g, mask.quantity) ?? read.get(g.id)?.values
        if (!grows(layer, g.id)) over.set(g.id, new Float32Array(pointsOf(g)))
        else if (values?.length === pointsOf(g)) over.set(g.id, values.map((v) => respond(mask, v)))
      }
      const by = mask.quantity === 'painted' ? 'where painted' : `by ${QUANTITIES[mask.quantity].name.toLowerCase()}`
      const title = `${layer.name} let through ${by}`
      return over.size > 0 ? { over, low: 0, high: 1, scale: 'rising', unit: '', histogram: null, title } : null
    }
    const found = grounds.flatMap((g) => {
      const data = readings.get(g.id)
      return data && data.reading === reading && data.values.length === pointsOf(g) ? [{ id: g.id, data }] : []
    })
    const together = readTogether(found.map((f) => f.data))
    if (!reading || !together) return null
    for (const { id, data } of found) {
      const turnDeg = stands?.find((g) => g.id === id)?.turn_deg ?? 0
      over.set(id, reading === 'aspect' ? turned(data.values, turnDeg) : data.values)
    }
    return { ...together, over, title: READINGS[reading].name }
  }, [land, absent, placed, stands, mask, layer, reading, readings, read])
}

/** Lays it over the grounds of the stage. */
export function useOverlay(stage: { lay(over: Map<number, Overlay>, withPlants: boolean): void } | null, laid: Laid | null, ground: unknown) {
  const withPlants = useUi((s) => s.reading === null || s.readWithPlants || s.maskShown !== null)
  useEffect(() => {
    const over = new Map<number, Overlay>()
    if (laid) for (const [id, values] of laid.over) over.set(id, { values, low: laid.low, high: laid.high, scale: laid.scale })
    stage?.lay(over, withPlants || laid === null)
  }, [stage, laid, ground, withPlants])
}
