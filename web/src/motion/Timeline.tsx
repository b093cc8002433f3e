import { ChevronDown, ChevronUp, Pause, Play, Repeat, Square, StepBack, StepForward } from 'lucide-react'
import { Fragment, useState } from 'react'
import { stepped, useClock } from '../state/clock'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { IconButton } from '../ui/IconButton'
import { NumberField } from '../ui/NumberField'
import { LaneKeys, useLanes } from './movers/Lanes'
import { CLOCK } from './usual'

/** The length of time that is played, along the bottom of the view, with a lane for all that has times of its own. */
export function Timeline() {
  const { time, playing, loop, rate, set } = useClock()
  const clock = useScene((s) => s.scene!.document.motion?.clock) ?? CLOCK
  const lanes = useLanes()
  const [open, setOpen] = useState(true)
  const { run } = useScene.getState()
  const { length_s: length, frame_rate: frames } = clock
  const step = (pictures: number) => set({ playing: false, time: stepped(time, pictures, frames, length) })
  const edit = (what: 'length' | 'frame_rate', value: number, gesture?: string) =>
    run({ do: 'edit_motion', edit: { set: what, value } }, gesture, gesture && `motion ${what}`)

  return (
    <section aria-label="Timeline" data-testid="timeline" className="grid max-h-44 shrink-0 grid-cols-[auto_minmax(0,1fr)_auto] overflow-y-auto border-t border-rule bg-panel px-3">
      <div className="sticky top-0 z-10 flex h-12 items-center gap-1 bg-panel">
        <IconButton icon={playing ? Pause : Play} label={playing ? 'Pause (space)' : 'Play (space)'} on={playing} onClick={() => set({ playing: !playing, time: !playing && time >= length ? 0 : time })} />
        <IconButton icon={Square} label="Stop, back to the start" onClick={() => set({ playing: false, time: 0 })} />
        <IconButton icon={StepBack} label="One picture back" onClick={() => step(-1)} />
        <IconButton icon={StepForward} label="One picture on" onClick={() => step(1)} />
        {lanes.length > 0 && <IconButton icon={open ? ChevronDown : ChevronUp} label={open ? 'Fold the lanes' : `Show ${lanes.length === 1 ? 'the lane' : `${lanes.length} lanes`}`} onClick={() => setOpen(!open)} />}
        <IconButton icon={Repeat} label={loop ? 'Stop at the end' : 'Begin again at the end'} on={loop} onClick={() => set({ loop: !loop })} />
      </div>
      <div className="sticky top-0 z-10 flex h-12 items-center bg-panel">
        <input
          type="range" aria-label="Moment" data-testid="moment" min={0} max={length} step={1 / frames} value={Math.min(time, length)}
          aria-valuetext={`${time.toFixed(2)} seconds`}
          onChange={(e) => set({ playing: false, time: Number(e.currentTarget.value) })}
          className="mx-2 h-1.5 min-w-0 flex-1 cursor-pointer accent-(--thrift)"
        />
      </div>
      <div className="sticky top-0 z-10 flex h-12 items-center gap-1 bg-panel">
        <output className="w-24 text-right font-mono text-xs" data-testid="moment-said">
          {time.toFixed(2)} s <span className="text-soft">{Math.round(time * frames)}</span>
        </output>
        <span className="ml-1 w-16 text-right text-[11px] text-soft max-xl:hidden" data-testid="play-rate">{rate !== null && `${rate.toFixed(0)} a second`}</span>
        <div className="ml-2 flex items-center gap-1.5 text-xs text-soft">
          <span>of</span>
          <span className="w-20"><NumberField label="Length" hideLabel testId="clock-length" unit="s" value={length} min={0.1} max={3600} step={0.5} digits={1} fallback={CLOCK.length_s} hint="How long it plays. Changes nothing in the scene." onChange={(v, g) => edit('length', v, g)} /></span>
          <span className="w-20"><NumberField label="Pictures a second" hideLabel testId="clock-rate" unit="/s" value={frames} min={1} max={120} step={1} digits={0} fallback={CLOCK.frame_rate} hint="Frames a second, for runs; the view draws as many as it can." onChange={(v, g) => edit('frame_rate', Math.round(v), g)} /></span>
        </div>
      </div>
      {open && lanes.map((lane) => (
        <Fragment key={`${lane.what} ${lane.id}`}>
          <button type="button" className="h-5 max-w-36 truncate text-left text-[11px] text-soft hover:text-ink" onClick={() => useUi.setState({ chosen: { what: lane.what, id: lane.id } })}>
            {lane.name}
          </button>
          <LaneKeys lane={lane} length={length} />
          <span />
        </Fragment>
      ))}
      {open && lanes.length > 0 && <span className="col-span-3 h-1.5" />}
    </section>
  )
}
