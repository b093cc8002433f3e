import { keepPreviousData, useQueries } from '@tanstack/react-query'
import { useMemo } from 'react'
import { decodeMask, type Histogram, type MaskBuffer } from '../../api/buffers'
import { fetchBuffer, type Layer, type Mask } from '../../api/client'
import { afterPlants } from '../../state/data'
import { waters } from '../../state/grounds'
import { useScene } from '../../state/scene'
import { joined, useHistogram } from '../histograms'
import { sourceOf } from './quantities'

const NONE: number[] = []
/** The plants of another layer as a ground. */
const PLANTS = [4294967295]

/** The grounds a layer grows on, the land as 0. */
function useGroundsOf(layer: Layer | undefined): number[] {
  const document = useScene((s) => s.scene!.document)
  if (!layer) return NONE
  if (layer.on_plants != null) return PLANTS
  const all = [...(document.ground.absent ? [] : [0]), ...(document.grounds ?? []).filter((g) => !g.hidden).map((g) => g.id)]
  const chosen = layer.grounds ?? []
  const floating = waters(document).map((w) => w.id)
  return chosen.length === 0 ? all : [...all, ...floating].filter((id) => chosen.includes(id))
}

/** What a mask looks at, on every ground of its layer; read again when that changes, not when its curve does. */
export function useMaskQuantity(layer: Layer | undefined, mask: Mask | undefined): Map<number, MaskBuffer> {
  const scene = useScene((s) => s.scene!)
  const grounds = useGroundsOf(layer)
  const needed = mask && (layer?.on_plants != null || mask.quantity !== 'slope' && mask.quantity !== 'altitude')
  const { document } = scene
  const keys = scene.layers.map((l) => l.plants_key)
  const near = mask?.near?.what
  // Only what the mask could look at makes its answer stale.
  const about = [
    layer?.on_plants != null ? keys : null,
    near === 'layer' ? keys : null,
    near === 'outline' || near === 'tracks' || mask?.quantity === 'zone' ? JSON.stringify([document.outlines, document.zones]) : null,
    near === 'obstacle' || near === 'obstacles' ? scene.obstacles.map((o) => o.mesh_key) : null,
    mask?.quantity === 'painted' ? JSON.stringify(document.paints?.find((p) => p.id === mask.paint)) : null,
    mask?.picture ? JSON.stringify(document.pictures?.find((p) => p.id === mask.picture!.id)) : null,
    mask?.shot != null || near === 'camera' ? JSON.stringify(document.shots.map((s) => [s.id, s.eye_m, s.target_m, s.view_deg, s.width_px, s.height_px])) : null,
    // The band of a distance says how far it is measured.
    mask?.quantity === 'water_height' || mask?.quantity === 'water_depth' ? JSON.stringify([document.waters, document.ground.water_m]) : null,
    mask?.quantity === 'distance' || mask?.quantity === 'downhill' ? [mask.response.full_from, mask.response.end] : null,
  ]
  const wanted = needed ? grounds : NONE
  const data = useQueries({
    queries: wanted.map((ground) => ({
      queryKey: ['mask', scene.ground_key, scene.grounds.find((g) => g.id === ground)?.key, ground, layer!.id, sourceOf(mask!), about],
      placeholderData: keepPreviousData,
      gcTime: 20_000,
      queryFn: async ({ signal }: { signal: AbortSignal }) => {
        await afterPlants(layer!.id)
        return decodeMask(await fetchBuffer(`/api/scenes/${scene.id}/layers/${layer!.id}/masks/${mask!.id}/quantity?ground=${ground}`, signal))
      },
    })),
    combine: dataOf,
  })
  const ids = wanted.join()
  return useMemo(() => new Map(ids.split(',').flatMap((g, i) => (data[i] ? [[Number(g), data[i]] as const] : []))), [ids, data])
}

const dataOf = (results: { data?: MaskBuffer }[]) => results.map((r) => r.data)

/** How the grounds of a layer are spread over what a mask looks at. */
export function useSpread(layer: Layer, mask: Mask): Histogram | null {
  const own = useHistogram(layer, mask.quantity === 'altitude' ? 'altitude' : 'slope')
  const read = useMaskQuantity(layer, mask)
  if (layer.on_plants == null && (mask.quantity === 'slope' || mask.quantity === 'altitude')) return own
  return joined([...read.values()].map((m) => m.histogram))
}
