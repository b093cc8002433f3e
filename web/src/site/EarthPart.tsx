import type { Schemas } from '../api/client'
import { useScene } from '../state/scene'
import { Choice } from '../ui/Choice'
import { Hint } from '../ui/Hint'
import { NumberField } from '../ui/NumberField'
import { Part } from '../ui/Part'
import { Switch } from '../ui/Switch'
import { EarthPicturesFields } from './EarthPicturesFields'
import { EARTHS, type Earth } from './earths'

type Earths = Schemas['Earths']

const USUAL: Earths = { cover: 'turf', steep: 'rock', steep_deg: 38.5, shore: 'sand', shore_m: 2, wet: null, patches: 1 }

/** What bare ground looks like: which earth lies where. */
export function EarthPart() {
  const ground = useScene((s) => s.scene!.document.ground)
  const { run } = useScene.getState()
  const earths = ground.earths ?? USUAL
  const change = (part: Partial<Earths>, gesture?: string) =>
    run({ do: 'edit_ground', edit: { set: 'earths', value: { ...earths, ...part } } }, gesture, gesture && 'earths')
  const bare = ground.bare ?? []
  const shown = [...new Set([earths.cover, earths.steep, ...(ground.water_m != null ? [earths.shore] : []), ...(earths.wet ? [earths.wet.earth] : [])])]
  const cover = (earth: Earth, on: boolean) => run({ do: 'edit_ground', edit: { set: 'bare', value: on ? bare.filter((e) => e !== earth) : [...bare, earth] } })
  const row = (label: string, value: Earth, set: (earth: Earth) => void) => (
    <div>
      <p className="mb-0.5 text-xs text-soft">{label}</p>
      <Choice label={label} value={value} options={EARTHS} onChange={set} />
    </div>
  )
  return (
    <Part title="Earth" summary="what shows between plants">
      <div className="flex flex-col gap-2">
        {row('On gentle ground', earths.cover, (cover) => change({ cover }))}
        {row('Where it is steep', earths.steep, (steep) => change({ steep }))}
        {ground.water_m != null && row('Near the water', earths.shore, (shore) => change({ shore }))}
        <div className="flex h-6 items-center gap-2">
          <Switch label="Another earth where water gathers" on={earths.wet != null} onChange={(on) => change({ wet: on ? { earth: 'peat', from: 8 } : null })} />
          <span className="text-xs text-soft">another one where water gathers</span>
        </div>
        {earths.wet && row('Where water gathers', earths.wet.earth, (earth) => change({ wet: { ...earths.wet!, earth } }))}
        <Hint text="Near the eye every earth brings what lies and grows on it anyway: short grass, litter, shells, pebbles. It thins into the ground's colour by 40 m, stands in the view and in stills, and is no layer. Tracks are trodden, and outlines may have an earth of their own.">
          <p className="text-xs text-soft">Fine cover of its own near by</p>
        </Hint>
        <div className="flex flex-wrap gap-x-3 gap-y-1">
          {EARTHS.filter((e) => shown.includes(e.value)).map(({ value, name }) => (
            <div key={value} className="flex h-6 items-center gap-1.5 text-xs text-soft">
              <Switch label={`Fine cover on ${name.toLowerCase()}`} on={!bare.includes(value)} onChange={(on) => cover(value, on)} />
              {name.toLowerCase()}
            </div>
          ))}
        </div>
        <EarthPicturesFields shown={shown} />
        <div className="grid grid-cols-4 gap-1.5">
          <NumberField label="Steep from" testId="earth-steep" unit="°" value={earths.steep_deg} min={5} max={85} step={0.5} digits={1} fallback={38.5}
            hint="From this slope on the steep earth shows." onChange={(steep_deg, g) => change({ steep_deg }, g)} />
          {ground.water_m != null && (
            <NumberField label="Shore to" testId="earth-shore" unit="m" value={earths.shore_m} min={0} max={50} step={0.1} digits={1} fallback={2}
              hint="How high over the water the shore reaches." onChange={(shore_m, g) => change({ shore_m }, g)} />
          )}
          {earths.wet && (
            <NumberField label="Wet from" testId="earth-wet" value={earths.wet.from} min={0} max={25} step={0.1} digits={1} fallback={8}
              hint="From this wetness on; read it off the ground with Wetness below." onChange={(from, g) => change({ wet: { ...earths.wet!, from } }, g)} />
          )}
          <NumberField label="Patches" testId="earth-patches" unit="%" value={earths.patches * 100} min={0} max={200} step={1} digits={0} fallback={100}
            hint="How patchy each earth is." onChange={(v, g) => change({ patches: v / 100 }, g)} />
        </div>
      </div>
    </Part>
  )
}
