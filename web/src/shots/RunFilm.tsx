import { Download, FileArchive, ListRestart, Pause, Play, Trash2, X } from 'lucide-react'
import { useEffect, useState } from 'react'
import { api, wanted, type Run } from '../api/client'
import { queries } from '../state/data'
import { useScene } from '../state/scene'
import { IconButton } from '../ui/IconButton'
import { ageOf } from './age'
import { leftOf } from './left'

/** A run of frames, played as it comes. */
export function RunFilm({ run }: { run: Run }) {
  const seq = useScene((s) => s.scene!.seq)
  const done = run.frames.filter((f) => f.picture != null)
  const [at, setAt] = useState(0)
  const [playing, setPlaying] = useState(false)
  const shown = done[Math.min(at, done.length - 1)]
  const open = run.state === 'waiting' || run.state === 'working'
  const missing = run.frames.filter((f) => f.state === 'failed' || f.state === 'stopped')
  const path = { params: { path: { run: run.id } } }
  const attempt = (asked: Promise<unknown>) =>
    void asked.then(() => queries.invalidateQueries({ queryKey: ['runs'] })).catch((e: Error) => useScene.getState().say(e.message))

  useEffect(() => {
    if (!playing || done.length < 2) return
    const timer = window.setInterval(() => setAt((k) => (k + 1) % done.length), 1000 / run.frame_rate)
    return () => window.clearInterval(timer)
  }, [playing, done.length, run.frame_rate])

  return (
    <li data-testid="run" data-state={run.state} className="overflow-hidden rounded-md border border-rule">
      <div className="relative bg-well" style={{ aspectRatio: `${run.width_px} / ${run.height_px}` }}>
        {playing && done.map((f) => <img key={f.nth} src={`/api/blobs/${f.picture}`} alt="" hidden />)}
        {shown && <img src={`/api/blobs/${shown.picture}`} alt={`Frame ${shown.nth} of ${run.shot_name}`} data-testid="run-frame" className="absolute inset-0 size-full object-cover" />}
        {open && (
          <p className={`absolute inset-x-0 bottom-0 px-2 py-1 text-center text-xs ${shown ? 'bg-panel/90' : ''}`}>
            <progress aria-label="How far the run is" className="mx-auto mb-0.5 block h-1.5 w-full accent-(--thrift)" value={run.progress} max={1} />
            {done.length} of {run.frames.length}
            {run.left_s != null ? `, ${leftOf(run.left_s)}` : run.state === 'waiting' ? ', waiting' : ', growing what is in sight'}
          </p>
        )}
      </div>
      {done.length > 1 && (
        <div className="flex items-center gap-1 px-1">
          <IconButton icon={playing ? Pause : Play} label={playing ? 'Pause the run' : 'Play the run'} on={playing} className="size-6!" onClick={() => setPlaying(!playing)} />
          <input
            type="range" aria-label="Frame" min={0} max={done.length - 1} step={1} value={Math.min(at, done.length - 1)}
            aria-valuetext={`frame ${shown?.nth}`}
            onChange={(e) => {
              setPlaying(false)
              setAt(Number(e.currentTarget.value))
            }}
            className="h-1.5 min-w-0 flex-1 cursor-pointer accent-(--thrift)"
          />
          <output className="w-10 text-right font-mono text-xs">{shown?.nth}</output>
        </div>
      )}
      <div className="flex items-center px-1 pb-0.5">
        <span className="min-w-0 flex-1 pl-1 text-xs">
          <span className="block truncate">{run.shot_name}</span>
          <span className="block text-[11px] leading-3 text-soft" data-testid="run-said">
            {ageOf(run, seq)}, {run.last - run.first} frames
            {missing.length > 0 && !open && `, ${missing.length} missing`}
          </span>
        </span>
        {open && <IconButton icon={X} label="Stop this run" className="size-6!" onClick={() => attempt(wanted(api.POST('/api/runs/{run}/stop', path)))} />}
        {!open && missing.length > 0 && (
          <IconButton icon={ListRestart} label="Take the missing frames" className="size-6!" onClick={() => attempt(wanted(api.POST('/api/runs/{run}/fill', path)))} />
        )}
        {done.length > 0 && (
          <>
            <a href={`/api/runs/${run.id}/animation.png`} download aria-label="Keep as a picture that moves" title="Keep as a picture that moves (animated PNG)" className={KEEP}>
              <Download size={13} aria-hidden />
            </a>
            <a href={`/api/runs/${run.id}/frames.zip`} download aria-label="Keep as numbered pictures" title="Keep as numbered pictures (zip)" className={KEEP}>
              <FileArchive size={13} aria-hidden />
            </a>
          </>
        )}
        {!open && <IconButton icon={Trash2} label="Delete this run" className="size-6!" onClick={() => attempt(wanted(api.DELETE('/api/runs/{run}', path)))} />}
      </div>
    </li>
  )
}

const KEEP = 'flex size-6 items-center justify-center rounded text-soft hover:bg-well hover:text-ink'
