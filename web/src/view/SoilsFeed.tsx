import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useEffect } from 'react'
import { decodeSoils } from '../api/buffers'
import { fetchBuffer } from '../api/client'
import { useScene } from '../state/scene'
import { useView } from '../state/view'
import { useSettledKey } from './useSettledKey'

/** Brings what outlines lay over the land into the view; draws nothing itself. */
export function SoilsFeed() {
  const stage = useView((s) => s.stage)
  const scene = useScene((s) => s.scene?.id)
  const ground = useScene((s) => s.scene?.document.ground)
  const outlines = useScene((s) => s.scene?.document.outlines)
  const key = useSettledKey(useScene((s) => s.scene?.ground_key), JSON.stringify(ground))
  // Names and what lays nothing do not matter.
  const laid = outlines?.filter((o) => o.kind === 'track' || o.earth).map((o) => ({ ...o, name: '' }))
  const { data: soils } = useQuery({
    queryKey: ['soils', scene, key, JSON.stringify(laid)],
    enabled: Boolean(scene && key && ground && !ground.absent),
    placeholderData: keepPreviousData,
    gcTime: 5_000,
    queryFn: async ({ signal }) => decodeSoils(await fetchBuffer(`/api/scenes/${scene}/ground/${key}/soils`, signal)),
  })
  useEffect(() => {
    if (soils) stage?.setSoils(soils)
  }, [stage, soils])
  return null
}
