import { Upload } from 'lucide-react'
import { useRef, useState } from 'react'
import { api, wanted } from '../../api/client'
import { useScene } from '../../state/scene'
import { Button } from '../../ui/Button'
import { readFile } from './files'
import { readCommunitiesAgain } from './useCommunities'

/** Keeps layers of this scene as a community, or reads one from a file. */
export function TakeLayers() {
  const scene = useScene((s) => s.scene!)
  const { say } = useScene.getState()
  const [name, setName] = useState('')
  const [chosen, setChosen] = useState<number[]>([])
  const file = useRef<HTMLInputElement>(null)
  const layers = scene.document.layers
  const attempt = (asked: Promise<unknown>) =>
    void asked
      .then(() => {
        setName('')
        setChosen([])
        return readCommunitiesAgain()
      })
      .catch((e: Error) => say(e.message))
  const keep = () =>
    attempt(wanted(api.POST('/api/scenes/{scene}/communities', { params: { path: { scene: scene.id } }, body: { name: name.trim(), layers: chosen } })))
  const read = (f: File | undefined) => {
    if (f) attempt(readFile(f).then((body) => wanted(api.POST('/api/communities', { body }))))
  }
  return (
    <li className="rounded-md border border-dashed border-rule px-3 py-2.5">
      <h3 className="font-semibold">Your own</h3>
      <p className="mb-2 text-soft">Keep layers of this scene for others.</p>
      <div className="mb-2 flex max-h-40 flex-col gap-0.5 overflow-y-auto">
        {layers.map((l) => (
          <label key={l.id} className="flex items-center gap-2">
            <input
              type="checkbox"
              className="accent-(--thrift)"
              checked={chosen.includes(l.id)}
              onChange={(e) => setChosen(e.currentTarget.checked ? [...chosen, l.id] : chosen.filter((id) => id !== l.id))}
            />
            {l.name}
          </label>
        ))}
      </div>
      <div className="flex gap-1.5">
        <input
          aria-label="Name of the community"
          placeholder="Its name"
          maxLength={80}
          value={name}
          onChange={(e) => setName(e.currentTarget.value)}
          onKeyDown={(e) => e.stopPropagation()}
          className="h-7 min-w-0 flex-1 rounded-md border border-rule bg-panel px-2 outline-none focus:border-soft"
        />
        <Button disabled={name.trim() === '' || chosen.length === 0} onClick={keep}>
          Keep
        </Button>
      </div>
      <input ref={file} type="file" accept=".json,application/json" aria-label="Community file" className="hidden" onChange={(e) => { read(e.currentTarget.files?.[0]); e.currentTarget.value = '' }} />
      <Button look="quiet" className="mt-2 -ml-2" onClick={() => file.current?.click()}>
        <Upload size={13} aria-hidden />
        Read one from a file
      </Button>
    </li>
  )
}
