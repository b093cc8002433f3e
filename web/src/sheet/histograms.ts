import type { Histogram } from '../api/buffers'
import type { Layer } from '../api/client'
import { useAllPlaced, useGround } from '../state/data'
import { useScene } from '../state/scene'

/** Several histograms of one quantity as one over all their range; each step's area is spread evenly over where it lay. */
export function joined(parts: Histogram[]): Histogram | null {
  if (parts.length < 2) return parts[0] ?? null
  const low = Math.min(...parts.map((h) => h.low))
  const high = Math.max(...parts.map((h) => h.high))
  const steps = parts[0].areas_m2.length
  const size = (high - low) / steps
  const areas_m2 = Array.from({ length: steps }, () => 0)
  for (const h of parts) {
    const own = (h.high - h.low) / h.areas_m2.length
    h.areas_m2.forEach((area, i) => {
      const [from, to] = [h.low + i * own, h.low + (i + 1) * own]
      const first = Math.max(0, Math.floor((from - low) / size))
      const last = Math.min(steps - 1, Math.floor((to - low) / size))
      for (let k = first; k <= last; k++) {
        const overlap = Math.min(to, low + (k + 1) * size) - Math.max(from, low + k * size)
        if (overlap > 0) areas_m2[k] += (area * overlap) / own
      }
    })
  }
  return { low, high, areas_m2 }
}

/** How the grounds a layer grows on are spread over a quantity. */
export function useHistogram(layer: Layer, quantity: 'slope' | 'altitude'): Histogram | null {
  const { data: land } = useGround()
  const absent = useScene((s) => s.scene!.document.ground.absent) ?? false
  const placed = useAllPlaced()
  const chosen = (id: number) => (layer.grounds ?? []).length === 0 || layer.grounds!.includes(id)
  const parts = placed.filter((g) => chosen(g.id)).map((g) => g.data[quantity])
  if (land && !absent && chosen(0)) parts.unshift(land[quantity])
  return joined(parts)
}
