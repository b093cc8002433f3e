import { useMoves } from '../motion/movers/useMoves'
import { Aperture } from 'lucide-react'
import { useState } from 'react'
import type { Shot } from '../api/client'
import { useClock } from '../state/clock'
import { useScene } from '../state/scene'
import { Button } from '../ui/Button'
import { NumberField } from '../ui/NumberField'
import { Part } from '../ui/Part'
import { showNumber } from '../ui/parse'
import { takeStill } from './takeStill'

/** Picture size, samples, and the button that takes the still. */
export function StillPart({ shot }: { shot: Shot }) {
  const { editShot, say } = useScene.getState()
  const blows = useMoves()
  const time = useClock((s) => s.time)
  const [busy, setBusy] = useState(false)
  const paths = (shot.width_px * shot.height_px * shot.samples) / 1e6

  const take = async () => {
    setBusy(true)
    try {
      await takeStill(shot.id, blows ? useClock.getState().time : undefined)
    } catch (e) {
      say(e instanceof Error ? e.message : String(e))
    } finally {
      setBusy(false)
    }
  }
  return (
    <Part title="Still" summary={`${showNumber(paths, 1)} million light paths`}>
      <div className="mb-2.5 grid grid-cols-3 gap-2">
        <NumberField
          label="Width" testId="still-width" unit="px" value={shot.width_px} min={16} max={8192} step={16} digits={0} fallback={640}
          onChange={(v, g) => editShot(shot.id, { set: 'picture', width_px: Math.round(v), height_px: shot.height_px }, g)}
        />
        <NumberField
          label="Height" testId="still-height" unit="px" value={shot.height_px} min={16} max={8192} step={16} digits={0} fallback={360}
          onChange={(v, g) => editShot(shot.id, { set: 'picture', width_px: shot.width_px, height_px: Math.round(v) }, g)}
        />
        <NumberField
          label="Samples" testId="still-samples" value={shot.samples} min={1} max={4096} step={1} digits={0} fallback={16}
          hint="Light paths for each pixel: more is calmer and slower."
          onChange={(v, g) => editShot(shot.id, { set: 'samples', value: Math.round(v) }, g)}
        />
      </div>
      <Button look="primary" className="w-full" data-testid="take-still" disabled={busy} onClick={() => void take()}>
        <Aperture size={14} aria-hidden />
        {blows ? `Take a still at ${time.toFixed(2)} s` : 'Take a still'}
      </Button>
    </Part>
  )
}
