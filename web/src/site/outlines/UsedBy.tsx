import type { Outline } from '../../api/client'
import { useScene } from '../../state/scene'
import { useUi } from '../../state/ui'
import { Button } from '../../ui/Button'
import { growBy, useOf, type Use } from './growBy'

const CLOSED: [Use, string, string][] = [
  ['inside', 'Grow inside', 'Only inside this line'],
  ['out', 'Keep out', 'Nowhere inside this line'],
  ['along', 'Along it', 'Within a metre of the line, fading over another'],
]
const OPEN: [Use, string, string][] = [
  ['out', 'Keep off', 'Nowhere on it; layers that keep clear of tracks do so already'],
  ['inside', 'On it', 'Only on it'],
  ['along', 'Along it', 'Within a metre of it, fading over another'],
]

/** Makes an outline a mask of the chosen layers at once. */
export function UsedBy({ outline }: { outline: Outline }) {
  const document = useScene((s) => s.scene!.document)
  const { run } = useScene.getState()
  const { layer: chosen, together } = useUi()
  const layers = document.layers.filter((l) => (l.id === chosen || together.includes(l.id)) && !l.locked)
  if (layers.length === 0) return <p className="text-xs text-soft">Choose a layer in the profile to have it grow by this line.</p>
  const use = useOf(document, outline, layers[0])
  return (
    <div role="group" aria-label={`What ${outline.name} means to ${layers.map((l) => l.name).join(', ')}`} className="rounded-md border border-rule bg-panel p-1.5">
      <p className="mb-1 truncate text-xs text-soft">For {layers.map((l) => l.name).join(', ')}</p>
      <div className="flex gap-1">
        {(outline.kind === 'track' ? OPEN : CLOSED).map(([id, name, hint]) => (
          <Button
            key={id} title={hint} data-testid={`outline-${id}`} aria-pressed={use === id}
            className={`flex-1 px-1! ${use === id ? 'border-thrift! bg-thrift-wash font-medium' : ''}`}
            onClick={() => run(growBy(document, outline, id, layers))}
          >
            {name}
          </Button>
        ))}
      </div>
    </div>
  )
}
