import { useScene } from '../../state/scene'

/** Whether anything of the scene moves: wind, a blower, a body or a ground. */
export const useMoves = () =>
  useScene(({ scene }) => {
    const { motion, blowers = [], bodies = [], grounds = [] } = scene!.document
    return (motion?.wind?.speed_m_per_s ?? 0) > 0 || blowers.some((b) => b.enabled) || bodies.some((b) => !b.hidden) || grounds.some((g) => g.moves && !g.hidden)
  })
