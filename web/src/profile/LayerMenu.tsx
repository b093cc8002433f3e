import { Ellipsis } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import type { Layer } from '../api/client'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { MENU, MENU_ITEM } from '../ui/menu'
import { byDistance } from './byDistance'
import { duplicateOf } from './duplicate'
import { freshGroup, groupsOf } from './groups'

export interface LayerMenuProps {
  layer: Layer
  onRename(): void
  onNudge(by: number): void
}

/** What else can be done with a layer. */
export function LayerMenu({ layer, onRename, onNudge }: LayerMenuProps) {
  const layers = useScene((s) => s.scene!.document.layers)
  const { run, editLayer } = useScene.getState()
  const set = useUi((s) => s.set)
  const alone = useUi((s) => s.alone)
  const duplicate = () => {
    const command = duplicateOf(layer, layers)
    run(command)
    set({ layer: command.copy, together: [], station: 'planting' })
  }
  const shots = useScene((s) => s.scene!.document.shots)
  const looking = useUi((s) => s.shot)
  const shot = shots.find((s) => s.id === looking) ?? shots[0]
  const part = () => {
    const { command, ids } = byDistance(useScene.getState().scene!.document, layer, shot)
    run(command)
    set({ layer: ids[0], together: [], station: 'planting' })
  }
  const groups = groupsOf(layers)
  // Layers that are edited along with it go with it.
  const group = (value: string | null) => editLayer(layer.id, { set: 'group', value })
  const items: [string, () => void, boolean?][] = [
    ['Rename', onRename, layer.locked],
    ['Duplicate', duplicate],
    [alone === layer.id ? 'Show all again' : 'Show alone', () => set({ alone: alone === layer.id ? null : layer.id })],
    [`Part by distance from ${shot?.name ?? 'a shot'}`, part, layer.locked || !shot],
    ['Move up', () => onNudge(-1), layer.locked],
    ['Move down', () => onNudge(1), layer.locked],
    ...(layer.group ? [[`Take out of ${layer.group}`, () => group(null)] as [string, () => void]] : []),
    ['Delete', () => run({ do: 'remove_layer', id: layer.id }), layer.locked],
  ]
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label={`More for ${layer.name}`}
        className="flex size-5 shrink-0 items-center justify-center rounded text-soft hover:bg-well hover:text-ink"
      >
        <Ellipsis size={14} aria-hidden />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className={MENU} align="end">
          {items.map(([name, action, off]) => (
            <DropdownMenu.Item key={name} className={MENU_ITEM} disabled={off} onSelect={() => setTimeout(action)}>
              {name}
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Separator className="my-1 h-px bg-rule" />
          <DropdownMenu.Label className="px-2 py-0.5 text-xs text-soft">Into a group</DropdownMenu.Label>
          {[...groups.map((g) => g.name).filter((name) => name !== layer.group), null].map((name) => (
            <DropdownMenu.Item key={name ?? ''} className={MENU_ITEM} onSelect={() => group(name ?? freshGroup(groups))}>
              {name ?? 'A new one'}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
