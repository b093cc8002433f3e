import { Plus, Trash2 } from 'lucide-react'
import { useScene } from '../../state/scene'
import { useUi } from '../../state/ui'
import { Button } from '../../ui/Button'
import { IconButton } from '../../ui/IconButton'
import { Part } from '../../ui/Part'
import { TextField } from '../../ui/TextField'
import { showNumber } from '../../ui/parse'
import { KINDS, type OutlineKind } from '../onGround'
import { OutlineFields } from './OutlineFields'
import { OutlineFiles } from './OutlineFiles'

/** Beds, clearings and tracks. */
export function OutlinesPart() {
  const scene = useScene((s) => s.scene!)
  const outlines = scene.document.outlines ?? []
  const { run } = useScene.getState()
  const { chosen, drawing, set } = useUi()
  const open = chosen?.what === 'outline' ? outlines.find((o) => o.id === chosen.id) : undefined

  return (
    <Part title="Outlines" summary={outlines.length === 0 ? 'none yet' : `${outlines.length} on the plan`}>
      <div className="flex gap-1.5" role="group" aria-label="Draw an outline">
        {(Object.keys(KINDS) as OutlineKind[]).map((kind) => (
          <Button
            key={kind}
            title={KINDS[kind].hint}
            aria-label={`Draw a ${KINDS[kind].name.toLowerCase()}`}
            data-testid={`draw-${kind}`}
            aria-pressed={drawing?.what === 'outline' && drawing.kind === kind}
            onClick={() => set({ drawing: { what: 'outline', kind }, sculpting: null, probing: false, chosen: null })}
          >
            <Plus size={13} aria-hidden />
            {KINDS[kind].name}
          </Button>
        ))}
      </div>
      <ul className="mt-2 -ml-1">
        {outlines.map((o) => {
          const derived = scene.outlines.find((d) => d.id === o.id)
          return (
            <li key={o.id} className={`rounded-md ${o.id === open?.id ? 'bg-thrift-wash' : 'hover:bg-well'}`}>
              <div className="flex h-8 items-center gap-1 pl-1">
                <button
                  type="button"
                  aria-pressed={o.id === open?.id}
                  className="w-16 shrink-0 text-left text-xs text-soft"
                  onClick={() => set({ chosen: o.id === open?.id ? null : { what: 'outline', id: o.id } })}
                >
                  {KINDS[o.kind].name}
                </button>
                <TextField label="Name of the outline" className="h-6 flex-1" value={o.name} onCommit={(name) => run({ do: 'put_outline', value: { ...o, name } })} />
                <span className="font-mono text-[11px] text-soft">
                  {derived && (o.kind === 'track' ? `${showNumber(derived.length_m, 0)} m` : `${showNumber(derived.area_m2, 0)} m²`)}
                </span>
                <IconButton icon={Trash2} label={`Delete ${o.name}`} onClick={() => run({ do: 'remove_outline', id: o.id })} />
              </div>
              {o.id === open?.id && <OutlineFields outline={o} />}
            </li>
          )
        })}
      </ul>
      <OutlineFiles />
      {outlines.length === 0 && <p className="mt-1 text-soft">Draw where plants belong, where they do not, and where people walk. Layers refer to outlines by name.</p>}
    </Part>
  )
}
