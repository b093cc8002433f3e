import type { Layer } from '../api/client'
import { useScene } from '../state/scene'

/** What a layer grows on: grounds of the scene, or the plants of another layer. */
export function GrowsOn({ layer }: { layer: Layer }) {
  const { editLayer } = useScene.getState()
  const document = useScene((s) => s.scene!.document)
  const grounds = (document.grounds ?? []).map((g) => ({ id: g.id, name: g.name }))
  if (!document.ground.absent) grounds.unshift({ id: 0, name: 'The land' })
  const chosen = layer.grounds ?? []
  const others = document.layers.filter((l) => l.id !== layer.id)
  if (grounds.length < 2 && chosen.length === 0 && others.length === 0) return null
  const host = layer.on_plants ?? null
  const put = (value: number[]) => editLayer(layer.id, { set: 'grounds', value })
  const toggle = (id: number) => {
    const now = chosen.length === 0 ? grounds.map((g) => g.id) : chosen
    const next = now.includes(id) ? now.filter((g) => g !== id) : [...now, id]
    // All of them chosen means every ground, also one that is added later; the last one stays.
    if (next.length > 0) put(grounds.every((g) => next.includes(g.id)) ? [] : next)
  }
  return (
    <div role="group" aria-label="Grows on" data-setting="grounds" data-testid="grows-on" className="flex flex-wrap items-center gap-1.5 pb-1">
      <span className="text-soft">Grows on</span>
      {host === null && (grounds.length > 1 || chosen.length > 0) && grounds.map((g) => {
        const on = chosen.length === 0 || chosen.includes(g.id)
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
