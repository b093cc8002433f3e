import type { Layer } from '../api/client'
import { useScene } from '../state/scene'
import { NumberField } from '../ui/NumberField'
import { Switch } from '../ui/Switch'
import { showCount } from '../ui/parse'

interface CeilingProps {
  /** All that stand now. */
  plants: number
  /** Layers that the ceiling cuts, and how many plants each is short of. */
  cut: { layer: Layer; count: number }[]
}

/** The most plants that all layers may have together. */
export function Ceiling({ plants, cut }: CeilingProps) {
  const { run } = useScene.getState()
  const cap = useScene((s) => s.scene!.document.cap) ?? null
  return (
    <section className="mt-3 border-t border-rule pt-2.5" aria-label="Ceiling of the scene">
      <div className="flex items-center justify-between gap-3">
        <h4 className="font-medium">Ceiling of the scene</h4>
        <Switch label="Ceiling of the scene" on={cap !== null} onChange={(on) => run({ do: 'cap_scene', value: on ? Math.max(1, plants) : null })} />
      </div>
      {cap === null ? (
        <p className="mt-1 text-xs text-soft">Layers grow as many plants as they ask for, each up to its own ceiling.</p>
      ) : (
        <>
          <div className="mt-1.5 w-36">
            <NumberField label="At most, in all layers" testId="scene-cap" value={cap} min={1} max={100_000_000} step={1000} digits={0}
              onChange={(value, gesture) => run({ do: 'cap_scene', value: Math.round(value) }, gesture, gesture && 'scene cap')} />
          </div>
          <p className="mt-1.5 text-xs text-soft">
            Stones are served first, then the profile from the top down. What was set by hand always stands.
          </p>
          {cut.length > 0 ? (
            <ul className="mt-1.5 space-y-0.5 text-xs text-iron" data-testid="cut-by-scene">
              {cut.map(({ layer, count }) => (
                <li key={layer.id} className="flex justify-between gap-3">
                  <span className="truncate">{layer.name}: left out</span>
                  <span className="font-mono">{showCount(count)}</span>
                </li>
              ))}
            </ul>
          ) : (
            <p className="mt-1.5 text-xs text-soft">No layer is cut: there is room for {showCount(Math.max(0, cap - plants))} more.</p>
          )}
        </>
      )}
    </section>
  )
}
