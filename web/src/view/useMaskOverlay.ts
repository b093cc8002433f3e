import { useEffect } from 'react'
import type { GroundBuffer } from '../api/buffers'
import { useLayer } from '../state/scene'
import { useUi } from '../state/ui'
import { responseAt } from './stage/grid'
import type { Stage } from './stage/stage'

/** Lays the mask whose curve is being dragged over the ground. */
export function useMaskOverlay(stage: Stage | null, ground: GroundBuffer | undefined) {
  const shown = useUi((s) => s.maskShown)
  const layer = useLayer(shown?.layer ?? null)
  const mask = layer?.masks.find((m) => m.id === shown?.mask)

  useEffect(() => {
    if (!stage || !ground) return
    if (!mask) {
      stage.showMask(null)
      return
    }
    const values = mask.quantity === 'slope' ? ground.slopes : ground.heights
    stage.showMask((i) => responseAt(mask.response, values[i]))
  }, [stage, ground, mask])
}
