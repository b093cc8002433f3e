import type { Layer } from '../api/client'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { useView } from '../state/view'
import { Button } from '../ui/Button'
import { Choice } from '../ui/Choice'
import { NumberField } from '../ui/NumberField'
import { Part } from '../ui/Part'
import { DriftList } from './DriftList'
import { startForeground } from './foreground'
import { useHand, type Pose, type Way } from './hand'
import { putDown, take } from './tool'
import { detach, letGo, pose, pullOut, toScene } from './tending'

const WAYS: { value: Way; name: string; hint: string }[] = [
  { value: 'one', name: 'One', hint: 'Click a plant in the view, Shift takes more. Click the line of a drift to move its points.' },
  { value: 'around', name: 'Around', hint: 'Drag around plants in the view, or straight across for a box. Shift takes more.' },
  { value: 'add', name: 'Add', hint: 'Click the ground to set a plant of the mix.' },
  { value: 'strew', name: 'Strew', hint: 'Drag along the ground to strew a drift of the mix beside the line.' },
  { value: 'erase', name: 'Clear', hint: 'Drag over plants to pull them out. The ground under the brush stays clear.' },
]

/** Work on single plants: take them in hand, change them, pull them out, find them again. */
export function TendPart({ layer }: { layer: Layer }) {
  const hand = useHand()
  const on = hand.layer === layer.id
  const grounds = useScene((s) => s.scene!.document.grounds) ?? []
  const setUi = useUi((s) => s.set)
  const stage = useView((s) => s.stage)
  const tended = layer.tended ?? []
  const drifts = layer.drifts?.length ?? 0
  const set = tended.filter((t) => t.plant).length
  const first = hand.items[0]?.tended.plant
  const held = on ? hand.items.flatMap((i) => (i.id === null ? [] : [i.id])).filter((id) => tended.some((t) => t.id === id)) : []
  const field = (label: string, key: 'size' | 'turn_deg' | 'tilt_deg' | 'tilt_to_deg' | 'lift_m', unit: string, [min, max, step, digits]: number[]) => (
    <NumberField label={label} testId={`hand-${key}`} unit={unit} value={first?.[key] ?? 0} min={min} max={max} step={step} digits={digits} disabled={layer.locked}
      onChange={(v, gesture) => pose(layer, (): Partial<Pose> => ({ [key]: v }), gesture)} />
  )
  const find = (what: 'set' | 'cleared') => {
    const places = tended.filter((t) => Boolean(t.plant) === (what === 'set')).map((t) => {
      const p = toScene(grounds.find((g) => g.id === (t.ground ?? 0)), t.at_m)
      return [p.x, stage?.heightAt(p.x, p.z) ?? p.y, p.z] as [number, number, number]
    })
    setUi({ pins: { name: `${layer.name}: ${places.length} ${what === 'set' ? 'set by hand' : 'spots cleared by hand'}`, places } })
  }
  return (
    <Part title="By hand" settings={['tended', 'drifts']} summary={[set > 0 && `${set} set`, tended.length > set && `${tended.length - set} cleared`, drifts > 0 && `${drifts} ${drifts === 1 ? 'drift' : 'drifts'}`].filter(Boolean).join(', ') || 'nothing tended'}>
      <div className="flex flex-col gap-2.5">
        <div className="flex flex-wrap items-center gap-2">
          <Button look={on ? 'plain' : 'quiet'} onClick={() => (on ? putDown() : take(layer.id))} data-testid="tend">
            {on ? 'Stop tending' : 'Tend single plants'}
          </Button>
          {on && <Choice label="Taking plants in hand" value={hand.way} options={WAYS} onChange={(way) => hand.set({ way, line: [], ...(way === 'strew' ? { items: [], chosen: null } : {}) })} />}
        </div>
        {!on && (
          <Button look="quiet" disabled={layer.locked} data-testid="foreground" onClick={() => startForeground(layer)}
            title="A layer of the same plants to strew and set by hand, in full in the view, while all other layers are drawn lightly. One step to undo.">
            Plant the foreground by hand
          </Button>
        )}
        {on && hand.items.length === 0 && <p className="text-xs text-soft">{WAYS.find((w) => w.value === hand.way)!.hint}</p>}
        {on && hand.way === 'erase' && (
          <div className="w-28">
            <NumberField label="Brush" testId="erase-radius" unit="m" value={hand.eraseM} min={0.05} max={50} step={0.1} digits={2} hint="How far around the pointer plants are pulled out" onChange={(eraseM) => hand.set({ eraseM })} />
          </div>
        )}
        {(on || drifts > 0) && <DriftList layer={layer} />}
        {on && first && (
          <>
            <p className="text-xs text-soft" data-testid="in-hand">
              {hand.items.length === 1 ? 'One plant in hand' : `${hand.items.length.toLocaleString('en')} plants in hand`}
              {hand.items.length > 1 && '; numbers are set for all of them'}
            </p>
            <div className="grid grid-cols-3 gap-2">
              {field('Size', 'size', '×', [0.01, 100, 0.02, 2])}
              {field('Turn', 'turn_deg', '°', [-360, 360, 2, 0])}
              {field('Raised', 'lift_m', 'm', [-20, 200, 0.01, 2])}
              {field('Tilt', 'tilt_deg', '°', [0, 180, 1, 0])}
              {field('Tilts towards', 'tilt_to_deg', '°', [-360, 360, 2, 0])}
            </div>
            <div className="flex flex-wrap gap-2">
              <Button look="quiet" onClick={() => pullOut(layer)} title="Takes them out. The spots stay clear through every change.">
                Take these plants out
              </Button>
              {held.length > 0 && (
                <Button look="quiet" onClick={() => letGo(layer, held)} title="Gives them back: they grow by themselves again.">
                  Let these grow by themselves
                </Button>
              )}
              <Button look="quiet" onClick={() => { const id = detach(layer); if (id) setUi({ layer: id }) }} title="Puts them into a layer of their own, planted by hand.">
                Move to a layer of their own
              </Button>
            </div>
          </>
        )}
        {tended.length > 0 && (
          <div className="flex flex-wrap gap-2">
            {set > 0 && (
              <Button look="quiet" onClick={() => find('set')}>
                Show the {set} set by hand
              </Button>
            )}
            {tended.length > set && (
              <Button look="quiet" onClick={() => find('cleared')}>
                Show the {tended.length - set} cleared spots
              </Button>
            )}
            <Button look="quiet" onClick={() => letGo(layer, tended.map((t) => t.id))} title="All of the layer grows by itself again. Undo brings the tending back.">
              Let all grow by themselves
            </Button>
          </div>
        )}
      </div>
    </Part>
  )
}
