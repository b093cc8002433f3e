import { Eye, EyeOff, Plus, Trash2 } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { useScene } from '../../state/scene'
import { useUi } from '../../state/ui'
import { Button } from '../../ui/Button'
import { Hint } from '../../ui/Hint'
import { IconButton } from '../../ui/IconButton'
import { MENU, MENU_ITEM } from '../../ui/menu'
import { Part } from '../../ui/Part'
import { Switch } from '../../ui/Switch'
import { TextField } from '../../ui/TextField'
import { MeshImport } from '../obstacles/MeshImport'
import { PlacedFields } from './PlacedFields'
import { addGround } from './addGround'
import { READY, sourceName, type ReadyGround } from './placed'

/** The grounds beside the land: meshes and further terrains, each placed, turned and scaled. */
export function GroundsPart() {
  const grounds = useScene((s) => s.scene!.document.grounds) ?? []
  const absent = useScene((s) => s.scene!.document.ground.absent) ?? false
  const ends = useScene((s) => s.scene!.document.ground.ends) ?? false
  const { run } = useScene.getState()
  const { chosen, set } = useUi()
  const open = chosen?.what === 'ground' ? grounds.find((g) => g.id === chosen.id) : undefined

  return (
    <Part title="Grounds beside the land" summary={grounds.length === 0 ? 'none' : `${grounds.length}`}>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1.5">
        <DropdownMenu.Root>
          <DropdownMenu.Trigger asChild>
            <Button data-testid="add-ground">
              <Plus size={13} aria-hidden />
              Add a ground
            </Button>
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content className={MENU} align="start" sideOffset={4}>
              {(Object.keys(READY) as ReadyGround[]).map((kind) => (
                <DropdownMenu.Item key={kind} className={MENU_ITEM} onSelect={() => addGround(READY[kind].source, READY[kind].name)}>
                  {READY[kind].name}
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
        <div className="flex items-center gap-1.5 text-xs text-soft">
          <Switch label="The land is there" on={!absent} onChange={(on) => run({ do: 'edit_ground', edit: { set: 'absent', value: !on } })} />
          the land is there
        </div>
        {!absent && (
          <Hint text="Shows the land going on to the horizon, by its own noise or in hills like its own. Nothing grows out there, and handoff leaves it out.">
            <div className="flex items-center gap-1.5 text-xs text-soft">
              <Switch label="The land goes on" on={!ends} onChange={(on) => run({ do: 'edit_ground', edit: { set: 'ends', value: !on } })} />
              it goes on to the horizon
            </div>
          </Hint>
        )}
      </div>
      <MeshImport
        action="Make it a ground"
        testId="ground-mesh"
        byPart
        onPlace={(mesh) => addGround({ kind: 'mesh', ...mesh }, mesh.name.replace(/\.[^.]*$/, '') || 'Mesh')}
      />
      <ul className="mt-2 -ml-1">
        {grounds.map((g) => (
          <li key={g.id} className={`rounded-md ${g.id === open?.id ? 'bg-thrift-wash' : 'hover:bg-well'}`}>
            <div className="flex h-8 items-center gap-1 pl-1">
              <button
                type="button"
                aria-pressed={g.id === open?.id}
                className="w-24 shrink-0 truncate text-left text-xs text-soft"
                onClick={() => set({ chosen: g.id === open?.id ? null : { what: 'ground', id: g.id } })}
              >
                {sourceName(g.source)}
              </button>
              <TextField label="Name of the ground" className="h-6 flex-1" value={g.name} onCommit={(name) => run({ do: 'put_ground', value: { ...g, name } })} />
              <IconButton icon={g.hidden ? EyeOff : Eye} label={g.hidden ? `Show ${g.name}` : `Hide ${g.name}`} onClick={() => run({ do: 'put_ground', value: { ...g, hidden: !g.hidden } })} />
              <IconButton icon={Trash2} label={`Delete ${g.name}`} onClick={() => run({ do: 'remove_ground', id: g.id })} />
            </div>
            {g.id === open?.id && <PlacedFields ground={g} />}
          </li>
        ))}
      </ul>
      {grounds.length === 0 && <p className="mt-1 text-soft">Plants also grow on meshes: a sea arch, a statue, a small planet. Layers choose the grounds they grow on.</p>}
    </Part>
  )
}
