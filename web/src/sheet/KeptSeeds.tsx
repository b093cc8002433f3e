import { Bookmark, BookmarkCheck } from 'lucide-react'
import type { Layer } from '../api/client'
import { useScene } from '../state/scene'
import { Button } from '../ui/Button'

/** As many as the document holds. */
const MOST = 24

/** Arrangements to come back to: keep the one that stands, or take up one that was kept. */
export function KeptSeeds({ layer }: { layer: Layer }) {
  const { editLayer } = useScene.getState()
  const kept = layer.kept_seeds ?? []
  const has = kept.includes(layer.seed)
  const keep = () => editLayer(layer.id, { set: 'kept_seeds', value: has ? kept.filter((s) => s !== layer.seed) : [...kept, layer.seed] })
  const full = !has && kept.length >= MOST
  const hint = has ? 'Forget this arrangement' : full ? `${MOST} are remembered: use one and forget it first` : 'Remember this arrangement, to come back to it'
  const Icon = has ? BookmarkCheck : Bookmark
  return (
    <div className="flex flex-wrap items-center gap-1.5 text-xs text-soft" role="group" aria-label="Remembered arrangements">
      <Button look="quiet" disabled={layer.locked || full} onClick={keep} data-testid="keep-seed" title={hint}>
        <Icon size={13} aria-hidden />
        {has ? 'Remembered' : 'Remember this arrangement'}
      </Button>
      {kept.map((seed) => (
        <button
          key={seed} type="button" disabled={layer.locked} aria-pressed={seed === layer.seed} aria-label={`Use arrangement ${seed}`} data-testid={`kept-seed-${seed}`}
          className={`h-6 rounded border px-1.5 font-mono text-[11px] ${seed === layer.seed ? 'border-thrift bg-thrift-wash text-ink' : 'border-rule hover:bg-well'}`}
          onClick={() => editLayer(layer.id, { set: 'seed', value: seed })}
        >
          {seed}
        </button>
      ))}
    </div>
  )
}
