import { ChevronDown, ChevronRight, Eye, EyeOff, Lock, LockOpen, Ungroup } from 'lucide-react'
import { useState } from 'react'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { IconButton } from '../ui/IconButton'
import { TextField } from '../ui/TextField'
import type { Command } from '../api/client'
import { forAll, groupsOf, renamed, type Group } from './groups'

/** Groups of layers: folded, hidden, locked and chosen together. Their layers stand in the bands below. */
export function GroupRows() {
  const layers = useScene((s) => s.scene!.document.layers)
  const groups = groupsOf(layers)
  if (groups.length === 0) return null
  return (
    <ul aria-label="Groups" className="border-t border-dashed border-rule py-1">
      {groups.map((g) => (
        <GroupRow key={g.name} group={g} />
      ))}
    </ul>
  )
}

function GroupRow({ group }: { group: Group }) {
  const { run } = useScene.getState()
  const { tucked, set } = useUi()
  const [naming, setNaming] = useState(false)
  const away = tucked.includes(group.name)
  const shown = group.layers.some((l) => l.visible)
  const locked = group.layers.every((l) => l.locked)
  const go = (command: Command | null) => command && run(command)
  const choose = () => set({ layer: group.layers[0].id, together: group.layers.slice(1).map((l) => l.id), station: 'planting' })
  return (
    <li data-testid={`group-${group.name}`} className="group mx-1 flex h-7 items-center gap-0.5 rounded-md pr-0.5 hover:bg-well">
      <IconButton
        icon={away ? ChevronRight : ChevronDown} label={away ? `Unfold ${group.name}` : `Fold ${group.name}`} className="size-5!"
        onClick={() => set({ tucked: away ? tucked.filter((n) => n !== group.name) : [...tucked, group.name] })}
      />
      {naming ? (
        <TextField
          label="Name of the group" autoFocus className="h-6 min-w-0 flex-1" value={group.name} onCancel={() => setNaming(false)}
          onCommit={(value) => {
            setNaming(false)
            if (value.trim()) go(renamed(group, value.trim()))
          }}
        />
      ) : (
        <button type="button" title="Edits all of them together; double-click renames" className="min-w-0 flex-1 truncate text-left text-xs font-medium" onClick={choose} onDoubleClick={() => setNaming(true)}>
          {group.name} <span className="font-mono text-[11px] font-normal text-soft">{group.layers.length}</span>
        </button>
      )}
      <IconButton icon={shown ? Eye : EyeOff} label={shown ? `Hide all of ${group.name}` : `Show all of ${group.name}`} className="size-5!" onClick={() => go(forAll(group, 'visible', !shown))} />
      <IconButton icon={locked ? Lock : LockOpen} label={locked ? `Unlock all of ${group.name}` : `Lock all of ${group.name}`} className={`size-5! ${locked ? 'text-lichen!' : ''}`} onClick={() => go(forAll(group, 'locked', !locked))} />
      <IconButton icon={Ungroup} label={`Part ${group.name}; its layers stay`} className="size-5!" onClick={() => go(renamed(group, null))} />
    </li>
  )
}
