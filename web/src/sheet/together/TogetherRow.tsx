import { X } from 'lucide-react'
import type { Layer } from '../../api/client'
import { useScene } from '../../state/scene'
import { useUi } from '../../state/ui'
import { IconButton } from '../../ui/IconButton'

/** Which layers change along with this one, and which one is seen alone. */
export function TogetherRow({ layer }: { layer: Layer }) {
  const layers = useScene((s) => s.scene!.document.layers)
  const { together, alone, set } = useUi()
  const others = layers.filter((l) => together.includes(l.id) && l.id !== layer.id)
  const seen = layers.find((l) => l.id === alone)
  return (
    <>
      {others.length > 0 && (
        <p className="mt-2 flex items-center justify-between gap-2 rounded-md bg-thrift-wash px-2 py-1" data-testid="together">
          <span>
            What you change here changes {others.map((l) => l.name).join(', ')} too
            {others.some((l) => l.locked) && '; locked ones stay as they are'}. Names, what was set by hand, and masks that look at something else stay
            each layer’s own.
          </span>
          <IconButton icon={X} label="Edit this layer alone" onClick={() => set({ together: [] })} />
        </p>
      )}
      {seen && (
        <p className="mt-2 flex items-center justify-between gap-2 rounded-md bg-lichen-wash px-2 py-1">
          Only {seen.name} is shown in the view.
          <IconButton icon={X} label="Show all layers again" onClick={() => set({ alone: null })} />
        </p>
      )}
    </>
  )
}
