import type { Layer } from '../api/client'
import { isWater, places } from '../state/grounds'
import { layerCommands, useScene } from '../state/scene'
import { freshMask } from './masks/quantities'

/** What a layer grows on: grounds of the scene, or the plants of another layer. */
export function GrowsOn({ layer }: { layer: Layer }) {
  const { editLayer, run } = useScene.getState()
  const document = useScene((s) => s.scene!.document)
  const grounds = places(document)
  // Waters are grown on only where a layer says so.
  const usual = grounds.filter((g) => !g.water)
  const chosen = layer.grounds ?? []
  const others = document.layers.filter((l) => l.id !== layer.id)
  if (grounds.length < 2 && chosen.length === 0 && others.length === 0) return null
  const host = layer.on_plants ?? null
  const put = (value: number[]) => {
    const grown = layerCommands(layer.id, { set: 'grounds', value })
    // A sheet reaches over its shore: where it lies over dry land nothing is to float.
    if (value.length === 0 || !value.every(isWater) || layer.masks.some((m) => m.quantity === 'water_depth')) {
      return run(grown.length === 1 ? grown[0] : { do: 'all', commands: grown })
    }
    const id = layer.masks.reduce((most, m) => Math.max(most, m.id), 0) + 1
    const kept = layerCommands(layer.id, { set: 'masks', value: [...layer.masks, freshMask(id, 'water_depth', null)] })
    run({ do: 'all', commands: [...grown, ...kept] })
  }
  const toggle = (id: number) => {
    const now = chosen.length === 0 ? usual.map((g) => g.id) : chosen
    const next = now.includes(id) ? now.filter((g) => g !== id) : [...now, id]
    // All of them chosen means every ground, also one that is added later; the last one stays.
    if (next.length > 0) put(next.length === usual.length && usual.every((g) => next.includes(g.id)) ? [] : next)
  }
  return (
    <div role="group" aria-label="Grows on" data-setting="grounds" data-testid="grows-on" className="flex flex-wrap items-center gap-1.5 pb-1">
      <span className="text-soft">Grows on</span>
      {host === null && (grounds.length > 1 || chosen.length > 0) && grounds.map((g) => {
        const on = chosen.length === 0 ? !g.water : chosen.includes(g.id)
        return (
          <button
            key={g.id}
            type="button"
            aria-pressed={on}
            disabled={layer.locked}
            className={`h-6 max-w-40 truncate rounded-full border px-2.5 text-xs ${on ? 'border-thrift bg-thrift-wash text-ink' : 'border-rule text-soft hover:bg-well'}`}
            onClick={() => toggle(g.id)}
          >
            {g.name}
          </button>
        )
      })}
      <select
        aria-label="Grows on the ground or on the plants of a layer" data-testid="on-plants" disabled={layer.locked} value={host ?? ''}
        onChange={(e) => editLayer(layer.id, { set: 'on_plants', value: e.currentTarget.value === '' ? null : Number(e.currentTarget.value) })}
        className="h-6 min-w-0 flex-1 rounded-md border border-rule bg-panel px-1.5 text-xs"
      >
        <option value="">the ground</option>
        {host !== null && !others.some((l) => l.id === host) && <option value={host}>the plants of a layer that is gone</option>}
        {others.map((l) => (
          <option key={l.id} value={l.id}>
            the plants of {l.name}
          </option>
        ))}
      </select>
    </div>
  )
}
