import { PanelLeftOpen } from 'lucide-react'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { Hint } from '../ui/Hint'
import { IconButton } from '../ui/IconButton'
import { Swatch } from './Swatch'

/** The profile folded: a swatch a layer, each still to be chosen. */
export function ProfileRail() {
  const layers = useScene((s) => s.scene!.document.layers)
  const { layer: chosen, set, unfold } = useUi()
  return (
    <aside aria-label="Profile, folded" data-testid="profile-rail" className="flex w-10 shrink-0 flex-col items-center gap-1 overflow-y-auto border-r border-rule bg-panel py-2.5">
      <IconButton icon={PanelLeftOpen} label="Open the profile" onClick={() => unfold('profile')} />
      {layers.map((l) => (
        <Hint key={l.id} text={l.name}>
          <button
            type="button"
            aria-label={l.name}
            aria-pressed={l.id === chosen}
            onClick={() => set({ layer: l.id, together: [], station: 'planting' })}
            className={`grid size-7 shrink-0 place-items-center rounded-md ${l.id === chosen ? 'bg-thrift-wash ring-1 ring-thrift' : 'hover:bg-well'} ${l.visible ? '' : 'opacity-50'}`}
          >
            <Swatch layerId={l.id} />
          </button>
        </Hint>
      ))}
    </aside>
  )
}
