import { Dices } from 'lucide-react'
import type { Schemas } from '../api/client'
import { useMotion, useSpecies } from '../state/data'
import { useScene } from '../state/scene'
import { Button } from '../ui/Button'
import { NumberField } from '../ui/NumberField'
import { Part } from '../ui/Part'
import { showNumber } from '../ui/parse'
import { Compass } from './Compass'
import { LayersInWind } from './LayersInWind'
import { BlowersPart } from './movers/BlowersPart'
import { BodiesPart } from './movers/BodiesPart'
import { RidesPart } from './movers/RidesPart'
import { useMoves } from './movers/useMoves'
import { ProfileChart } from './ProfileChart'
import { WavesSaid } from './WavesSaid'
import { WindOverLand } from './WindOverLand'
import { motionNotes } from './motionNotes'
import { GUSTS, WIND } from './usual'
import { directionName } from './winds'

type MotionEdit = Schemas['MotionEdit']

/** Motion: the wind over the whole scene, its gusts, and what takes how much of it. */
export function MotionSheet() {
  const wind = useScene((s) => s.scene!.document.motion?.wind) ?? WIND
  const gusts = wind.gusts ?? GUSTS
  const { data } = useMotion()
  const edit = (edit: MotionEdit, gesture?: string) => useScene.getState().run({ do: 'edit_motion', edit }, gesture, gesture && `motion ${edit.set}`)
  const { data: species } = useSpecies()
  const layers = useScene((s) => s.scene!.document.layers)
  const notes = data ? motionNotes(data.notes, layers, species ?? []) : []
  const calm = wind.speed_m_per_s === 0
  const moves = useMoves()

  return (
    <>
      <header className="border-b border-rule px-4 py-3">
        <h2 className="text-sm font-semibold">Motion</h2>
        <p className="mt-1 pr-7 text-soft" data-testid="wind-said">
          {calm ? `It is calm${moves ? ', but for what moves by itself.' : ': nothing moves. Give the wind a speed, then play.'}` : (
            <>
              A <strong className="font-semibold text-ink">{data?.force.name ?? 'wind'}</strong> from the {directionName(wind.from_deg)}
              {gusts.strength > 0 ? `, in gusts about ${showNumber(gusts.size_m, 0)} m across.` : ', as steady as on rails.'}
            </>
          )}
        </p>
        {calm && !moves && <Button className="mt-2" onClick={() => edit({ set: 'speed', value: 6 })}>Let it blow at 6 m/s</Button>}
      </header>
      <Part title="Wind" summary={data && `Beaufort ${data.force.number}, ${data.force.name}`}>
        <div className="flex items-start gap-4">
          <Compass value={wind.from_deg} onChange={(value, gesture) => edit({ set: 'from', value }, gesture)} />
          <div className="flex min-w-0 flex-1 flex-col gap-2">
            <NumberField
              label="Speed" testId="wind-speed" unit="m/s" value={wind.speed_m_per_s} min={0} max={40} step={0.25} digits={2} fallback={6}
              hint="Mean speed 10 m above open ground. Near the ground and within what grows there is less of it. Changes nothing that grows."
              onChange={(value, g) => edit({ set: 'speed', value }, g)}
            />
            <NumberField
              label="Comes from" testId="wind-from" unit="°" value={wind.from_deg} min={0} max={360} step={1} digits={0} fallback={250}
              hint="Degrees clockwise from north."
              onChange={(value, g) => edit({ set: 'from', value }, g)}
            />
          </div>
        </div>
        {data && !calm && <ProfileChart facts={data} />}
        {data && !calm && <WavesSaid high={data.waves_m} />}
        {!calm && <WindOverLand />}
      </Part>
      <Part title="Gusts" summary={`${showNumber(gusts.strength * 100, 0)} % of the speed`}>
        <div className="grid grid-cols-3 gap-2">
          <NumberField
            label="Strength" testId="gust-strength" unit="%" value={gusts.strength * 100} min={0} max={60} step={1} digits={0} fallback={GUSTS.strength * 100}
            hint="How far the speed strays from its mean: its standard deviation. Over open grass about 20 %, among trees 35 %."
            onChange={(v, g) => edit({ set: 'strength', value: v / 100 }, g)}
          />
          <NumberField
            label="Size" testId="gust-size" unit="m" value={gusts.size_m} min={2} max={100} step={1} digits={0} fallback={GUSTS.size_m}
            hint="How far across a gust is. Small ones ripple over a field, large ones bow a whole wood."
            onChange={(value, g) => edit({ set: 'size', value }, g)}
          />
          <NumberField
            label="Change" testId="gust-change" value={gusts.change} min={0} max={2} step={0.05} digits={2} fallback={GUSTS.change}
            hint="How quickly gusts change as they travel. At 0 one pattern runs over the land unchanged."
            onChange={(value, g) => edit({ set: 'change', value }, g)}
          />
        </div>
        <Button look="quiet" className="mt-1.5" onClick={() => edit({ set: 'seed', value: Math.floor(Math.random() * 2 ** 31) })}>
          <Dices size={13} aria-hidden />
          Other gusts
        </Button>
      </Part>
      <BlowersPart facts={data} />
      <BodiesPart facts={data} />
      <RidesPart />
      <LayersInWind facts={data} />
      {notes.length > 0 && (
        <ul className="flex flex-col gap-2 border-b border-rule px-4 py-3" data-testid="motion-notes">
          {notes.map((n) => (
            <li key={n.text} className="text-xs">
              {n.text}
              {n.fix && <Button className="mt-1" onClick={n.fix.run}>{n.fix.name}</Button>}
            </li>
          ))}
        </ul>
      )}
      <p className="px-4 py-3 text-xs text-soft">
        Plants, waves and clouds move here and in Shots, and stills and runs of frames show the moment they are taken at. Elsewhere, and in files, all is at rest.
      </p>
    </>
  )
}
