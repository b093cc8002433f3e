import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useEffect } from 'react'
import { decodeMesh } from '../api/buffers'
import { fetchBuffer } from '../api/client'
import { useScene } from '../state/scene'
import { useView } from '../state/view'
import { useSettledKey } from './useSettledKey'

/** Brings the land beyond its edges into the view; draws nothing itself. */
export function BeyondFeed() {
  const stage = useView((s) => s.stage)
  const scene = useScene((s) => s.scene?.id)
  const ground = useScene((s) => s.scene?.document.ground)
  const key = useSettledKey(useScene((s) => s.scene?.ground_key), JSON.stringify(ground))
  const there = Boolean(ground && !ground.absent && !ground.ends)
  const { data } = useQuery({
    queryKey: ['beyond', scene, key],
    enabled: Boolean(scene && key && there),
    placeholderData: keepPreviousData,
    gcTime: 5_000,
    queryFn: async ({ signal }) => decodeMesh(await fetchBuffer(`/api/scenes/${scene}/ground/${key}/beyond`, signal)),
  })
  useEffect(() => stage?.setBeyond(there && data ? data : null), [stage, data, there])
  return null
}
