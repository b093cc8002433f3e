import type { Layer } from '../api/client'
import { useScene } from '../state/scene'
import { Hint } from '../ui/Hint'

const WAYS: { id: NonNullable<Layer['show_as']>; name: string }[] = [
  { id: 'auto', name: 'by size on screen' },
  { id: 'full', name: 'every leaf' },
  { id: 'light', name: 'light mesh' },
  { id: 'far', name: 'far mesh' },
  { id: 'card', name: 'card' },
  { id: 'hull', name: 'hull' },
  { id: 'box', name: 'box' },
  { id: 'dot', name: 'dot' },
]

/** How a layer's plants are drawn in the view. */
export function ShownAs({ layer }: { layer: Layer }) {
  const { editLayer } = useScene.getState()
  return (
    <Hint text="How its plants are drawn in the view. Stills and handoff have every plant in full, and no count changes.">
      <label className="flex w-full items-center gap-2 text-xs text-soft">
        Shown as
        <select
          data-testid="show-as"
          value={layer.show_as ?? 'auto'}
          disabled={layer.locked}
          onChange={(e) => editLayer(layer.id, { set: 'show_as', value: e.currentTarget.value as (typeof WAYS)[number]['id'] })}
          className="h-7 min-w-0 flex-1 rounded-md border border-rule bg-panel px-1.5 text-[13px] text-ink outline-none hover:border-soft focus:border-soft disabled:opacity-50"
        >
          {WAYS.map((w) => (
            <option key={w.id} value={w.id}>
              {w.name}
            </option>
          ))}
        </select>
      </label>
    </Hint>
  )
}
