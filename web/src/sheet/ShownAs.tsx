import type { Layer } from '../api/client'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { Hint } from '../ui/Hint'
import { WAYS, type Way } from '../view/ways'

/** How a layer's plants are drawn in the view. */
export function ShownAs({ layer }: { layer: Layer }) {
  const { editLayer } = useScene.getState()
  const allAs = useUi((s) => s.allAs)
  return (
    <Hint text="How its plants are drawn in the view. Stills and handoff have every plant in full, and no count changes.">
      <label className="flex w-full items-center gap-2 text-xs text-soft">
        Shown as
        <select
          data-testid="show-as"
          value={layer.show_as ?? 'auto'}
          disabled={layer.locked}
          onChange={(e) => editLayer(layer.id, { set: 'show_as', value: e.currentTarget.value as Way })}
          className="h-7 min-w-0 flex-1 rounded-md border border-rule bg-panel px-1.5 text-[13px] text-ink outline-none hover:border-soft focus:border-soft disabled:opacity-50"
        >
          {WAYS.map((w) => (
            <option key={w.id} value={w.id}>
              {w.name}
            </option>
          ))}
        </select>
        {allAs !== 'auto' && <span className="whitespace-nowrap">all: {WAYS.find((w) => w.id === allAs)!.all.toLowerCase()}</span>}
      </label>
    </Hint>
  )
}
