import type { Layer } from '../../api/client'
import { useScene } from '../../state/scene'

/** Which shot's picture a mask looks at. */
export function ShotChoice({ layer, shot, onChange }: { layer: Layer; shot: number; onChange(shot: number): void }) {
  const shots = useScene((s) => s.scene!.document.shots)
  return (
    <label className="mt-1 flex items-center gap-2 text-xs text-soft">
      of
      <select
        aria-label="Which shot" data-testid="mask-shot" disabled={layer.locked} value={shot} onChange={(e) => onChange(Number(e.currentTarget.value))}
        className="h-7 min-w-0 flex-1 rounded-md border border-rule bg-panel px-2 text-[13px] text-ink"
      >
        {!shots.some((s) => s.id === shot) && <option value={shot}>a shot that is gone</option>}
        {shots.map((s) => (
          <option key={s.id} value={s.id}>
            {s.name}
          </option>
        ))}
      </select>
    </label>
  )
}
