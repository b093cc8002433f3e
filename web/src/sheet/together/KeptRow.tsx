import { ArrowLeftRight, Bookmark, Images, X } from 'lucide-react'
import { useState } from 'react'
import type { Layer } from '../../api/client'
import { useScene } from '../../state/scene'
import { useUi } from '../../state/ui'
import { takePair } from '../../shots/takeStill'
import { Button } from '../../ui/Button'
import { IconButton } from '../../ui/IconButton'
import { differences } from './differences'

/** Rows of differences that are shown. */
const SHOWN = 8

/** Keeps a version of the layer's settings beside the one that is tried, switches between them, and says what differs. */
export function KeptRow({ layer }: { layer: Layer }) {
  const { kept, set } = useUi()
  const { run, say } = useScene.getState()
  const [taking, setTaking] = useState(false)
  const other = kept[layer.id]
  const keep = (version: Layer | undefined) => {
    const { [layer.id]: _, ...rest } = kept
    set({ kept: version ? { ...rest, [layer.id]: version } : rest })
  }
  if (!other) {
    return (
      <Button look="quiet" className="-ml-2" disabled={layer.locked} title="Sets these settings aside as A. Try others as B, and switch." onClick={() => keep(layer)}>
        <Bookmark size={13} aria-hidden />
        Set aside as A
      </Button>
    )
  }
  const found = differences(layer, other)
  const pair = () => {
    setTaking(true)
    takePair(other)
      .catch((e: Error) => say(e.message))
      .finally(() => setTaking(false))
  }
  return (
    <div className="mt-1 rounded-md border border-rule px-2 py-1.5" data-testid="kept">
      <div className="flex items-center gap-1.5">
        <Bookmark size={14} className="shrink-0 text-thrift" aria-hidden />
        <span className="min-w-0 flex-1">{found.length === 0 ? 'As A, which was set aside' : `${found.length} ${found.length === 1 ? 'setting differs' : 'settings differ'} from A`}</span>
        <Button
          disabled={layer.locked || found.length === 0} title="Takes the settings that were set aside, and sets these aside instead; a step to undo"
          onClick={() => {
            run({ do: 'replace_layer', layer: other })
            keep(layer)
          }}
        >
          <ArrowLeftRight size={13} aria-hidden />
          Switch
        </Button>
        <IconButton icon={Images} label="Stills of both, side by side" disabled={layer.locked || found.length === 0 || taking} onClick={pair} />
        <IconButton icon={X} label="Forget A" onClick={() => keep(undefined)} />
      </div>
      {found.length > 0 && (
        <table className="mt-1 w-full text-xs">
          <thead className="text-left text-soft">
            <tr>
              <th className="font-normal">Setting</th>
              <th className="font-normal">B, now</th>
              <th className="font-normal">A</th>
            </tr>
          </thead>
          <tbody>
            {found.slice(0, SHOWN).map((d) => (
              <tr key={d.setting}>
                <td className="pr-2">{d.setting}</td>
                <td className="max-w-24 truncate pr-2 font-mono" title={d.now}>{d.now}</td>
                <td className="max-w-24 truncate font-mono" title={d.kept}>{d.kept}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {found.length > SHOWN && <p className="text-xs text-soft">and {found.length - SHOWN} more</p>}
    </div>
  )
}
