import { Eye, EyeOff, Plus, Trash2 } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { useScene } from '../../state/scene'
import { useUi } from '../../state/ui'
import { Button } from '../../ui/Button'
import { IconButton } from '../../ui/IconButton'
import { MENU, MENU_ITEM } from '../../ui/menu'
import { Part } from '../../ui/Part'
import { TextField } from '../../ui/TextField'
import { SHAPES, shapeName, type ReadyKind } from '../onGround'
import { MeshImport } from './MeshImport'
import { ObstacleFields } from './ObstacleFields'

/** What stands on the ground and plants keep clear of. */
export function ObstaclesPart() {
  const obstacles = useScene((s) => s.scene!.document.obstacles) ?? []
  const { run } = useScene.getState()
  const { chosen, set } = useUi()
  const open = chosen?.what === 'obstacle' ? obstacles.find((o) => o.id === chosen.id) : undefined

  return (
    <Part title="Obstacles" summary={obstacles.length === 0 ? 'none yet' : `${obstacles.length} on the ground`}>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger asChild>
          <Button data-testid="add-obstacle">
            <Plus size={13} aria-hidden />
            Set one up
          </Button>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className={MENU} align="start" sideOffset={4}>
            {(Object.keys(SHAPES) as ReadyKind[]).map((kind) => (
              <DropdownMenu.Item
                key={kind}
                className={MENU_ITEM}
                onSelect={() => set({ drawing: { what: 'obstacle', kind }, sculpting: null, probing: false, chosen: null })}
              >
                {SHAPES[kind].name}
              </DropdownMenu.Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <MeshImport
        action="Place it"
        testId="mesh"
        onPlace={({ blob, name, placing }) => {
          const shape = { kind: 'mesh' as const, blob, name, placing }
          set({ drawing: { what: 'obstacle', kind: 'mesh', shape, name: name.replace(/\.[^.]*$/, '') || 'Mesh' }, sculpting: null, probing: false, chosen: null })
        }}
      />
      <ul className="mt-2 -ml-1">
        {obstacles.map((o) => (
          <li key={o.id} className={`rounded-md ${o.id === open?.id ? 'bg-thrift-wash' : 'hover:bg-well'}`}>
            <div className="flex h-8 items-center gap-1 pl-1">
              <button
                type="button"
                aria-pressed={o.id === open?.id}
                className="w-24 shrink-0 truncate text-left text-xs text-soft"
                onClick={() => set({ chosen: o.id === open?.id ? null : { what: 'obstacle', id: o.id } })}
              >
                {shapeName(o.shape.kind)}
              </button>
              <TextField label="Name of the obstacle" className="h-6 flex-1" value={o.name} onCommit={(name) => run({ do: 'put_obstacle', value: { ...o, name } })} />
              <IconButton icon={o.hidden ? EyeOff : Eye} label={o.hidden ? `Show ${o.name}` : `Hide ${o.name}`} onClick={() => run({ do: 'put_obstacle', value: { ...o, hidden: !o.hidden } })} />
              <IconButton icon={Trash2} label={`Delete ${o.name}`} onClick={() => run({ do: 'remove_obstacle', id: o.id })} />
            </div>
            {o.id === open?.id && <ObstacleFields obstacle={o} />}
          </li>
        ))}
      </ul>
    </Part>
  )
}
