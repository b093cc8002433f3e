import { Columns2, Download, Trash2, X } from 'lucide-react'
import { api, wanted, type Still } from '../api/client'
import { queries, useStills } from '../state/data'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { IconButton } from '../ui/IconButton'
import { Part } from '../ui/Part'
import { showNumber } from '../ui/parse'
import { ageOf } from './age'
import { leftOf } from './left'

/** All stills of the scene, newest first. */
export function ContactSheet() {
  const { data: stills } = useStills()
  return (
    <Part title="Contact sheet" summary={stills && `${stills.length} ${stills.length === 1 ? 'still' : 'stills'}`}>
      {stills?.length === 0 && (
        <p className="text-soft">Stills are kept here. Take two and set them side by side to see what changed.</p>
      )}
      <ul className="grid grid-cols-2 gap-2.5" data-testid="contact-sheet">
        {stills?.map((s) => <Frame key={s.id} still={s} />)}
      </ul>
    </Part>
  )
}

function Frame({ still }: { still: Still }) {
  const { compared, set } = useUi()
  const { say } = useScene.getState()
  const seq = useScene((s) => s.scene!.seq)
  const picked = compared !== null && (compared.a === still.id || compared.b === still.id)
  const again = () => queries.invalidateQueries({ queryKey: ['stills'] })
  const attempt = (asked: Promise<unknown>) => void asked.then(again).catch((e: Error) => say(e.message))
  const pick = () => {
    if (!compared || compared.b) set({ compared: { a: still.id, b: null } })
    else if (compared.a !== still.id) set({ compared: { a: compared.a, b: still.id } })
  }
  const open = still.state === 'waiting' || still.state === 'working'

  return (
    <li data-testid="still" data-state={still.state} className={`overflow-hidden rounded-md border ${picked ? 'border-thrift' : 'border-rule'}`}>
      {still.picture ? (
        <button type="button" aria-label={`Look at the still of ${still.shot_name}`} className="block w-full" onClick={() => set({ compared: { a: still.id, b: null } })}>
          <img src={`/api/blobs/${still.picture}`} alt={`Still of ${still.shot_name}`} className="aspect-video w-full object-cover" />
        </button>
      ) : (
        <OnItsWay still={still} />
      )}
      <div className="flex flex-wrap items-center justify-end px-1 py-0.5">
        <span className="w-full min-w-0 pt-0.5 pl-1 text-xs" title={`${still.width_px} × ${still.height_px}, ${still.samples} samples`}>
          <span className="block truncate">{still.shot_name}</span>
          <span className="block text-[11px] leading-3 text-soft">
            {ageOf(still, seq)}
            {still.time_s != null && `, at ${still.time_s.toFixed(2)} s`}
            {still.seconds != null && `, ${showNumber(still.seconds, 1)} s`}
          </span>
        </span>
        {open && (
          <IconButton
            icon={X}
            label="Stop this still"
            onClick={() => attempt(wanted(api.POST('/api/jobs/{job}/stop', { params: { path: { job: still.job_id } } })))}
          />
        )}
        {still.picture && (
          <>
            <IconButton icon={Columns2} label="Set beside another" on={picked} className="size-5!" onClick={pick} />
            <a
              href={`/api/blobs/${still.picture}`}
              download={`${still.shot_name}.png`}
              aria-label="Keep as a file"
              className="flex size-5 items-center justify-center rounded text-soft hover:bg-well hover:text-ink"
            >
              <Download size={13} aria-hidden />
            </a>
          </>
        )}
        {!open && (
          <IconButton
            icon={Trash2}
            label="Take off the contact sheet"
            className="size-5!"
            onClick={() => attempt(wanted(api.DELETE('/api/stills/{still}', { params: { path: { still: still.id } } })))}
          />
        )}
      </div>
    </li>
  )
}

/** A still that is not there yet: its place in the queue, then its picture as it comes and how long the rest takes. */
function OnItsWay({ still }: { still: Still }) {
  if (still.state === 'failed')
    return <p className="grid aspect-video place-content-center bg-well px-2 text-center text-xs text-iron">{still.message ?? 'It failed.'}</p>
  return (
    <div className="relative grid aspect-video place-content-center bg-well px-2 text-center text-xs">
      {still.drafts > 0 && (
        <img
          src={`/api/stills/${still.id}/draft?nth=${still.drafts}`}
          alt={`Still of ${still.shot_name} so far`}
          data-testid="still-draft"
          className="absolute inset-0 size-full object-cover"
        />
      )}
      <p className={`relative rounded px-1.5 py-0.5 ${still.drafts > 0 ? 'bg-panel/90' : ''}`}>
        <progress aria-label="How far the still is" className="mx-auto mb-0.5 block h-1.5 w-24 accent-(--thrift)" value={still.progress} max={1} />
        {still.state === 'waiting' ? waitingFor(still) : remaining(still)}
      </p>
    </div>
  )
}

function waitingFor({ ahead }: Still): string {
  if (!ahead) return 'next in line'
  return ahead === 1 ? '1 before it' : `${ahead} before it`
}

function remaining({ progress, left_s }: Still): string {
  if (progress === 0) return 'growing what is in sight'
  const percent = `${Math.round(progress * 100)} %`
  if (left_s == null) return percent
  return `${percent}, ${leftOf(left_s)}`
}
