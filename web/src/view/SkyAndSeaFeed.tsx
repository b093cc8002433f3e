import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useEffect } from 'react'
import { decodeWaves } from '../api/buffers'
import { fetchBuffer } from '../api/client'
import { useScene } from '../state/scene'
import { useView } from '../state/view'
import { useSettledKey } from './useSettledKey'

/** Brings clouds and the waves on the water into the view; draws nothing itself. */
export function SkyAndSeaFeed() {
  const stage = useView((s) => s.stage)
  const scene = useScene((s) => s.scene?.id)
  const ground = useScene((s) => s.scene?.document.ground)
  const sheets = useScene((s) => (s.scene?.document.waters ?? []).length > 0)
  const speed = useScene((s) => s.scene?.document.motion?.wind?.speed_m_per_s ?? 0)
  const from = useScene((s) => s.scene?.document.motion?.wind?.from_deg ?? 0)
  const key = useSettledKey(useScene((s) => s.scene?.ground_key), JSON.stringify(ground))
  const wet = Boolean(ground && (typeof ground.water_m === 'number' || sheets))
  const { data: billows } = useQuery({
    queryKey: ['billows'],
    staleTime: Infinity,
    queryFn: async ({ signal }) => new Uint8Array(await fetchBuffer('/api/sky/clouds', signal)),
  })
  useEffect(() => {
    if (billows) stage?.setBillows(billows)
  }, [stage, billows])
  const { data: waves } = useQuery({
    queryKey: ['waves', scene, key, speed, from, ground?.water_m, ground?.ends, ground?.absent],
    enabled: Boolean(scene && key && wet),
    placeholderData: keepPreviousData,
    gcTime: 5_000,
    queryFn: async ({ signal }) => decodeWaves(await fetchBuffer(`/api/scenes/${scene}/ground/${key}/waves`, signal)),
  })
  useEffect(() => {
    if (waves) stage?.setSea(waves)
  }, [stage, waves])
  return null
}
