import { useScene } from '../../state/scene'

/** Whether anything of the scene moves: wind, a blower or a body. */
export const useMoves = () =>
  useScene(({ scene }) => {
    const { motion, blowers = [], bodies = [] } = scene!.document
    return (motion?.wind?.speed_m_per_s ?? 0) > 0 || blowers.some((b) => b.enabled) || bodies.some((b) => !b.hidden)
  })
