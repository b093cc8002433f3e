import { useScene } from '../state/scene'
import { showNumber } from '../ui/parse'

/** How high the wind raises waves, where a scene has water; metres. */
export function WavesSaid({ high }: { high: number }) {
  const wet = useScene((s) => typeof s.scene!.document.ground.water_m === 'number' || (s.scene!.document.waters ?? []).length > 0)
  if (!wet) return null
  return (
    <p className="mt-2 text-xs text-soft" data-testid="waves-said">
      On open water it raises waves of about {showNumber(high, high < 1 ? 2 : 1)} m; in the lee of land and on small waters they are lower.
    </p>
  )
}
