import { Plus, Trash2 } from 'lucide-react'
import type { WaterPlane } from '../../api/client'
import { useScene } from '../../state/scene'
import { useUi } from '../../state/ui'
import { Button } from '../../ui/Button'
import { Choice } from '../../ui/Choice'
import { IconButton } from '../../ui/IconButton'
import { NumberField } from '../../ui/NumberField'
import { Part } from '../../ui/Part'
import { Switch } from '../../ui/Switch'
import { TextField } from '../../ui/TextField'
import { showNumber } from '../../ui/parse'
import { addPool } from './addPool'

/** The water that is everywhere, and sheets of water with an end. */
export function WaterPart() {
  const water = useScene((s) => s.scene!.document.ground.water_m) ?? null
  const sheets = useScene((s) => s.scene!.document.waters) ?? []
  const { run } = useScene.getState()
  const { chosen, set } = useUi()
  const setWater = (value: number | null, gesture?: string) => run({ do: 'edit_ground', edit: { set: 'water', value } }, gesture, gesture && 'water')
  const summary = [water === null ? null : `at ${showNumber(water, 2)} m`, sheets.length > 0 && `${sheets.length} ${sheets.length === 1 ? 'sheet' : 'sheets'}`].filter(Boolean).join(', ')

  return (
    <Part title="Water" summary={summary || 'none'}>
      <div className="flex items-end gap-3">
        <div className="flex h-7 items-center">
          <Switch label="Water" on={water !== null} onChange={(on) => setWater(on ? 0 : null)} />
        </div>
        {water !== null && (
          <div className="w-32">
            <NumberField
              label="Level" testId="water" value={water} min={-1000} max={10000} step={0.1} unit="m" fallback={0}
              hint="Height of the water. Plants are kept out of it by an altitude mask, not by itself."
              onChange={setWater}
            />
          </div>
        )}
        <Button data-testid="add-water" title="A level sheet of water with an end: a pool, a tank, a tarn above the sea" onClick={addPool}>
          <Plus size={13} aria-hidden />
          Sheet
        </Button>
      </div>
      <ul className="mt-2 -ml-1">
        {sheets.map((w) => {
          const open = chosen?.what === 'water' && chosen.id === w.id
          return (
            <li key={w.id} className={`rounded-md ${open ? 'bg-thrift-wash' : 'hover:bg-well'}`}>
              <div className="flex h-8 items-center gap-1 pl-1">
                <button type="button" aria-pressed={open} className="w-20 shrink-0 text-left text-xs text-soft" onClick={() => set({ chosen: open ? null : { what: 'water', id: w.id } })}>
                  at {showNumber(w.height_m, 2)} m
                </button>
                <TextField label="Name of the water" className="h-6 flex-1" value={w.name} onCommit={(name) => run({ do: 'put_water', value: { ...w, name } })} />
                <IconButton icon={Trash2} label={`Delete ${w.name}`} onClick={() => run({ do: 'remove_water', id: w.id })} />
              </div>
              {open && <SheetFields water={w} />}
            </li>
          )
        })}
      </ul>
    </Part>
  )
}

function SheetFields({ water: w }: { water: WaterPlane }) {
  const { run } = useScene.getState()
  const put = (part: Partial<WaterPlane>, gesture?: string) => run({ do: 'put_water', value: { ...w, ...part } }, gesture, gesture && `water ${w.id}`)
  const place = { unit: 'm', min: -30000, max: 30000, step: 0.1, digits: 2 }
  const size = { unit: 'm', min: 0.1, max: 60000, step: 0.1, digits: 1 }
  return (
    <div className="flex flex-col gap-2 px-2 pb-2">
      <div className="grid grid-cols-3 gap-1.5">
        <NumberField label="Height" testId="sheet-height" unit="m" min={-1000} max={10000} step={0.05} digits={2} value={w.height_m} onChange={(height_m, k) => put({ height_m }, k)} />
        <NumberField label="East" testId="sheet-x" {...place} value={w.x_m} onChange={(x_m, k) => put({ x_m }, k)} />
        <NumberField label="North" testId="sheet-n" {...place} value={-w.z_m} onChange={(n, k) => put({ z_m: -n }, k)} />
        <NumberField label="Width" testId="sheet-width" {...size} value={w.width_m} onChange={(width_m, k) => put({ width_m }, k)} />
        <NumberField label="Depth" testId="sheet-depth" {...size} value={w.depth_m} onChange={(depth_m, k) => put({ depth_m }, k)} />
        <NumberField label="Turn" testId="sheet-turn" unit="°" min={-360} max={360} step={1} digits={1} fallback={0} value={w.turn_deg} onChange={(turn_deg, k) => put({ turn_deg }, k)} />
      </div>
      <Choice label="Its edge" value={w.round ? 'round' : 'square'} options={[{ value: 'round', name: 'Oval' }, { value: 'square', name: 'Rectangle' }]} onChange={(edge) => put({ round: edge === 'round' })} />
    </div>
  )
}
