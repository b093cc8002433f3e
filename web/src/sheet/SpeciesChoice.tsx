import type { Layer } from '../api/client'
import { KINDS } from '../nursery/kinds'
import { useSpecies } from '../state/data'
import { useScene } from '../state/scene'

/** Which species a layer grows, by kind. */
export function SpeciesChoice({ layer }: { layer: Layer }) {
  const { data } = useSpecies()
  const { editLayer } = useScene.getState()
  return (
    <select
      aria-label="Species"
      value={layer.species}
      disabled={layer.locked}
      onChange={(e) => editLayer(layer.id, { set: 'species', value: e.currentTarget.value })}
      className="h-7 min-w-0 flex-1 rounded-md border border-rule bg-panel px-1.5 outline-none hover:border-soft focus:border-soft disabled:opacity-50"
    >
      {KINDS.map((k) => {
        const own = (data ?? []).filter((s) => s.kind === k.id)
        return own.length === 0 ? null : (
          <optgroup key={k.id} label={k.name}>
            {own.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </optgroup>
        )
      })}
    </select>
  )
}
