import type { Layer } from '../../api/client'
import { useScene } from '../../state/scene'

/** Names as one reads them out. */
const listed = (names: string[]) => new Intl.ListFormat('en').format(names)

/** Which layers this one gives way to, and which give way to it. */
export function OrderWords({ layer }: { layer: Layer }) {
  const scene = useScene((s) => s.scene!)
  const name = (id: number) => scene.document.layers.find((l) => l.id === id)?.name ?? 'another layer'
  const above = scene.layers.find((l) => l.id === layer.id)?.yields_to ?? []
  const below = scene.layers.filter((l) => l.yields_to.includes(layer.id)).map((l) => l.id)
  const words = [
    above.length > 0 && `Gives way to ${listed(above.map(name))}.`,
    below.length > 0 && `Claims before ${listed(below.map(name))}.`,
  ].filter(Boolean)
  return (
    <p className="text-xs text-soft" data-testid="order-words">
      {words.join(' ') || 'Gives way to no layer, and none to it.'}
    </p>
  )
}
