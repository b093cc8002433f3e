import { Film } from 'lucide-react'
import { useState } from 'react'
import { api, wanted, type Shot } from '../api/client'
import { CLOCK } from '../motion/usual'
import { queries, useRuns } from '../state/data'
import { useScene } from '../state/scene'
import { Button } from '../ui/Button'
import { NumberField } from '../ui/NumberField'
import { Part } from '../ui/Part'
import { RunFilm } from './RunFilm'

/** A run of frames through a shot: which, and those that were taken. */
export function RunPart({ shot }: { shot: Shot }) {
  const clock = useScene((s) => s.scene!.document.motion?.clock) ?? CLOCK
  const { say } = useScene.getState()
  const whole = Math.max(1, Math.round(clock.length_s * clock.frame_rate))
  const [asked, setAsked] = useState<{ first: number; last: number } | null>(null)
  const [busy, setBusy] = useState(false)
  const { data: runs } = useRuns()
  const { first, last } = asked ?? { first: 0, last: whole }
  const count = last - first

  const take = async () => {
    setBusy(true)
    try {
      const id = useScene.getState().scene!.id
      await wanted(api.POST('/api/scenes/{scene}/runs', { params: { path: { scene: id } }, body: { shot: shot.id, first, last } }))
      await queries.invalidateQueries({ queryKey: ['runs', id] })
    } catch (e) {
      say(e instanceof Error ? e.message : String(e))
    } finally {
      setBusy(false)
    }
  }
  return (
    <Part title="Run of frames" summary={`${(first / clock.frame_rate).toFixed(2)} to ${(last / clock.frame_rate).toFixed(2)} s, ${clock.frame_rate} a second`}>
      <div className="mb-2.5 grid grid-cols-2 gap-2">
        <NumberField
          label="From frame" testId="run-first" value={first} min={0} max={last - 1} step={1} digits={0} fallback={0}
          onChange={(v) => setAsked({ first: Math.round(v), last })}
        />
        <NumberField
          label="Until frame" testId="run-last" value={last} min={first + 1} max={first + 3600} step={1} digits={0} fallback={whole}
          hint="The last frame is the one before it. The timeline's length and pictures a second say where it ends."
          onChange={(v) => setAsked({ first, last: Math.round(v) })}
        />
      </div>
      <Button className="w-full" data-testid="take-run" disabled={busy} onClick={() => void take()}>
        <Film size={14} aria-hidden />
        Take {count} {count === 1 ? 'frame' : 'frames'}
      </Button>
      <ul className="mt-2.5 flex flex-col gap-2.5" data-testid="runs">
        {runs?.map((run) => <RunFilm key={run.id} run={run} />)}
      </ul>
    </Part>
  )
}
