import { Camera, Plus, Trash2 } from 'lucide-react'
import { freshId, useScene, useShot } from '../state/scene'
import { useUi } from '../state/ui'
import { useView } from '../state/view'
import { Button } from '../ui/Button'
import { IconButton } from '../ui/IconButton'
import { NumberField } from '../ui/NumberField'
import { Part } from '../ui/Part'
import { TextField } from '../ui/TextField'
import { ContactSheet } from './ContactSheet'
import { LightPart } from './LightPart'
import { RunPart } from './RunPart'
import { StillPart } from './StillPart'
import { lensOf } from './through'

function freeName(shots: { name: string }[]): string {
  for (let n = shots.length + 1; ; n++) if (!shots.some((s) => s.name === `Shot ${n}`)) return `Shot ${n}`
}

/** Shots: cameras, their light, and the stills taken through them. */
export function ShotsSheet() {
  const shots = useScene((s) => s.scene!.document.shots)
  const { run, editShot } = useScene.getState()
  const { shot: chosen, set } = useUi()
  const shot = useShot(chosen)
  const stage = useView((s) => s.stage)

  const add = () => {
    const id = freshId(shots)
    const place = stage!.place()
    const base = shot ?? {
      view_deg: 42, sun_azimuth_deg: 220, sun_elevation_deg: 35, overcast: 0.1, width_px: 640, height_px: 360, samples: 16,
    }
    run({ do: 'add_shot', shot: { ...base, id, name: freeName(shots), ...place }, place: shots.length })
    set({ shot: id })
  }
  return (
    <>
      <header className="border-b border-rule px-4 py-3">
        <div className="flex items-center justify-between pr-7">
          <h2 className="text-sm font-semibold">Shots</h2>
          <Button onClick={add} disabled={!stage}>
            <Plus size={13} aria-hidden />
            From this view
          </Button>
        </div>
        <ul className="mt-2 -ml-1">
          {shots.map((s) => (
            <li key={s.id} className={`flex h-8 items-center gap-1 rounded-md pl-1 ${s.id === shot?.id ? 'bg-thrift-wash' : 'hover:bg-well'}`}>
              <IconButton
                icon={Camera}
                label={`Look through ${s.name}`}
                on={s.id === shot?.id}
                onClick={() => {
                  set({ shot: s.id, mode: 'perspective' })
                  stage?.look(s, lensOf(s))
                }}
              />
              <TextField label="Name of the shot" className="h-6 flex-1" value={s.name} onCommit={(value) => editShot(s.id, { set: 'name', value })} />
              <IconButton icon={Trash2} label={`Delete ${s.name}`} onClick={() => run({ do: 'remove_shot', id: s.id })} />
            </li>
          ))}
        </ul>
        {shots.length === 0 && <p className="text-soft">Find a place you like in the view, then keep it as a shot.</p>}
      </header>
      {shot && (
        <>
          <Part title="Camera" summary={`eye ${shot.eye_m.map((v) => Math.round(v)).join(', ')} m`}>
            <div className="grid grid-cols-2 items-end gap-2">
              <NumberField
                label="Vertical angle of view"
                testId="view-deg"
                unit="°"
                value={shot.view_deg}
                min={5}
                max={120}
                step={0.5}
                digits={1}
                fallback={42}
                hint="From the lower to the upper edge of the picture."
                onChange={(value, gesture) => editShot(shot.id, { set: 'view', value }, gesture)}
              />
              <Button disabled={!stage} onClick={() => editShot(shot.id, { set: 'camera', ...stage!.place() })}>
                Use this view
              </Button>
            </div>
          </Part>
          <LightPart shot={shot} />
          <StillPart shot={shot} />
          <RunPart shot={shot} />
        </>
      )}
      <ContactSheet />
    </>
  )
}
