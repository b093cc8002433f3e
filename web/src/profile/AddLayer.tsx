import { Plus } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { useSpecies } from '../state/data'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { Button } from '../ui/Button'
import { MENU, MENU_ITEM } from '../ui/menu'
import { showNumber } from '../ui/parse'
import { newLayer } from './newLayer'

/** Adds a layer of a species from the nursery. */
export function AddLayer() {
  const document = useScene((s) => s.scene!.document)
  const { run } = useScene.getState()
  const set = useUi((s) => s.set)
  const { data: species } = useSpecies()
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button>
          <Plus size={13} aria-hidden />
          Add layer
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className={`${MENU} max-h-(--radix-dropdown-menu-content-available-height) overflow-y-auto`} align="end" sideOffset={4}>
          {species?.map((s) => (
            <DropdownMenu.Item
              key={s.id}
              className={MENU_ITEM}
              onSelect={() => {
                const layer = newLayer(document, s)
                run({ do: 'add_layer', layer, place: 0 })
                set({ layer: layer.id, together: [], station: 'planting' })
              }}
            >
              {s.plural}
              <span className="ml-auto pl-4 font-mono text-[11px] text-soft">{showNumber(s.height_m, 2)} m</span>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
