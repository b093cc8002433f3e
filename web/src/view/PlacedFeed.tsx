import { useEffect } from 'react'
import type { PlacedGround } from '../api/client'
import { usePlaced } from '../state/data'
import { useScene } from '../state/scene'
import { useView } from '../state/view'

/** Brings one ground beside the land into the view; draws nothing itself. */
export function PlacedFeed({ ground }: { ground: PlacedGround }) {
  const stage = useView((s) => s.stage)
  const say = useScene((s) => s.say)
  const { data, error } = usePlaced(ground.id)
  const { id, x_m, y_m, z_m, turn_deg, hidden } = ground
  useEffect(() => {
    stage?.setPlaced(id, data && !hidden ? data : null, { x_m, y_m, z_m, turn_deg })
  }, [stage, data, id, x_m, y_m, z_m, turn_deg, hidden])
  useEffect(() => () => useView.getState().stage?.setPlaced(id, null, { x_m: 0, y_m: 0, z_m: 0, turn_deg: 0 }), [id, stage])
  const failed = error && (error as { code?: string }).code !== 'outdated' ? `${ground.name}: ${error.message}` : null
  useEffect(() => {
    if (failed) say(failed)
  }, [failed, say])
  return null
}
