import { Plus, Trash2 } from 'lucide-react'
import type { Zone } from '../../api/client'
import { useAllPlaced } from '../../state/data'
import { freshId, useScene } from '../../state/scene'
import { Button } from '../../ui/Button'
import { IconButton } from '../../ui/IconButton'
import { Part } from '../../ui/Part'
import { TextField } from '../../ui/TextField'

const CHIP = 'h-6 max-w-44 truncate rounded-full border px-2.5 text-xs'

/** Named parts of the ground, put together from outlines and face groups, for masks to look at. */
export function ZonesPart() {
  const document = useScene((s) => s.scene!.document)
  const zones = document.zones ?? []
  const outlines = document.outlines ?? []
  const placed = useAllPlaced()
  const groups = placed.flatMap((g) => (g.kind === 'mesh' ? g.data.groups.map((name) => ({ ground: g.id, name })) : []))
  const { run } = useScene.getState()
  const put = (value: Zone) => run({ do: 'put_zone', value })
  const add = () => {
    const taken = new Set(zones.map((z) => z.name))
    let name = 'Zone'
    for (let i = 2; taken.has(name); i++) name = `Zone ${i}`
    put({ id: freshId(zones), name })
  }
  return (
    <Part title="Zones" summary={zones.length === 0 ? 'none yet' : `${zones.length} named`}>
      <Button data-testid="add-zone" onClick={add}>
        <Plus size={13} aria-hidden />
        Name a zone
      </Button>
      <ul className="mt-2 flex flex-col gap-2">
        {zones.map((z) => (
          <li key={z.id} className="rounded-md border border-rule px-2 py-1.5" data-testid={`zone-${z.id}`}>
            <div className="flex items-center gap-1">
              <TextField label="Name of the zone" className="h-6 flex-1" value={z.name} onCommit={(name) => put({ ...z, name })} />
              <IconButton icon={Trash2} label={`Delete ${z.name}`} onClick={() => run({ do: 'remove_zone', id: z.id })} />
            </div>
            <div className="mt-1 flex flex-wrap gap-1" role="group" aria-label={`What belongs to ${z.name}`}>
              {outlines.map((o) => {
                const on = (z.outlines ?? []).includes(o.id)
                const next = on ? z.outlines!.filter((id) => id !== o.id) : [...(z.outlines ?? []), o.id]
                return <Chip key={`o${o.id}`} name={o.name} on={on} onClick={() => put({ ...z, outlines: next })} />
              })}
              {groups.map((g) => {
                const same = (h: { ground: number; name: string }) => h.ground === g.ground && h.name === g.name
                const on = (z.groups ?? []).some(same)
                const next = on ? z.groups!.filter((h) => !same(h)) : [...(z.groups ?? []), g]
                return <Chip key={`g${g.ground} ${g.name}`} name={g.name} on={on} onClick={() => put({ ...z, groups: next })} />
              })}
              {outlines.length + groups.length === 0 && <p className="text-xs text-soft">Draw an outline, or bring a mesh with face groups: they are what a zone is made of.</p>}
            </div>
          </li>
        ))}
      </ul>
      {zones.length === 0 && <p className="mt-1 text-soft">A zone is a part of the ground with a name, such as lawn, paving or far bank. A layer’s mask can keep plants in it or out of it.</p>}
    </Part>
  )
}

function Chip({ name, on, onClick }: { name: string; on: boolean; onClick(): void }) {
  return (
    <button type="button" aria-pressed={on} className={`${CHIP} ${on ? 'border-thrift bg-thrift-wash text-ink' : 'border-rule text-soft hover:bg-well'}`} onClick={onClick}>
      {name}
    </button>
  )
}
