import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useEffect } from 'react'
import { decodeMesh } from '../api/buffers'
import { fetchBuffer, type Obstacle } from '../api/client'
import { useScene } from '../state/scene'
import { useView } from '../state/view'
import { useSettledKey } from './useSettledKey'

/** Brings one obstacle into the view; draws nothing itself. */
export function ObstacleFeed({ obstacle }: { obstacle: Obstacle }) {
  const stage = useView((s) => s.stage)
  const scene = useScene((s) => s.scene?.id)
  const latest = useScene((s) => s.scene?.obstacles.find((o) => o.id === obstacle.id)?.mesh_key)
  const key = useSettledKey(latest, JSON.stringify(obstacle))
  const { data } = useQuery({
    queryKey: ['obstacle', obstacle.id, key],
    enabled: Boolean(scene && key),
    placeholderData: keepPreviousData,
    gcTime: 5_000,
    queryFn: async ({ signal }) =>
      decodeMesh(await fetchBuffer(`/api/scenes/${scene}/obstacles/${obstacle.id}/mesh/${key}`, signal)),
  })
  useEffect(() => stage?.setObstacle(obstacle.id, data && !obstacle.hidden ? data : null), [stage, data, obstacle.id, obstacle.hidden])
  useEffect(() => () => useView.getState().stage?.setObstacle(obstacle.id, null), [obstacle.id, stage])
  return null
}
