import { useQueries } from '@tanstack/react-query'
import type { PlantsBuffer } from '../api/buffers'
import type { Layer, Tally } from '../api/client'
import { grownQuery } from '../state/data'
import { useScene } from '../state/scene'

export interface Grown {
  layer: Layer
  tally: Tally | undefined
  /** Why it could not grow. */
  problem: string | undefined
}

/** Every layer with its account, once it has grown. */
export function useGrown(): Grown[] {
  const scene = useScene((s) => s.scene!)
  const grown = useQueries({
    queries: scene.layers.map((l) => grownQuery(l.id, l.plants_key)),
  })
  return scene.document.layers.map((layer, i) => ({
    layer,
    tally: (grown[i]?.data as PlantsBuffer | undefined)?.tally,
    problem: grown[i]?.error?.message,
  }))
}
