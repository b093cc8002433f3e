import { Plus } from 'lucide-react'
import type { Layer, Mask } from '../api/client'
import { useGround, usePlants } from '../state/data'
import { freshId, useScene } from '../state/scene'
import { Button } from '../ui/Button'
import { Part } from '../ui/Part'
import { showNumber } from '../ui/parse'
import { MaskCard } from './MaskCard'

const QUANTITIES = [
  { id: 'slope', name: 'Slope' },
  { id: 'altitude', name: 'Altitude' },
] as const

/** Where: the layer's masks, one card each. */
export function Where({ layer }: { layer: Layer }) {
  const { editLayer } = useScene.getState()
  const { data: plants } = usePlants(layer)
  const { data: ground } = useGround()
  const share = plants ? plants.tally.allowed_m2 / plants.tally.ground_m2 : null

  const add = (quantity: Mask['quantity']) => {
    const [low, high] = quantity === 'slope' ? [0, 90] : [ground?.low_m ?? 0, ground?.high_m ?? 100]
    const at = (t: number) => Number((low + (high - low) * t).toFixed(1))
    const response = { start: at(0), full_from: at(0), full_to: at(0.5), end: at(0.6), inverted: false }
    const mask: Mask = { id: freshId(layer.masks), quantity, enabled: true, response }
    editLayer(layer.id, { set: 'masks', value: [...layer.masks, mask] })
  }
  return (
    <Part
      title="Where"
      settings={layer.masks.map((m) => `mask:${m.id}`)}
      summary={share !== null && `${layer.masks.length} masks, ${showNumber(share * 100, 1)} % of the ground`}
    >
      <div className="flex flex-col gap-2">
        {layer.masks.map((mask) => (
          <div key={mask.id} data-setting={`mask:${mask.id}`} className="rounded-md border border-rule px-2.5 py-2">
            <MaskCard layer={layer} mask={mask} />
          </div>
        ))}
        {layer.masks.length === 0 && <p className="text-soft">Everywhere. Add a mask to say where not.</p>}
        <div className="flex gap-1.5">
          {QUANTITIES.map((q) => (
            <Button key={q.id} look="quiet" disabled={layer.locked} onClick={() => add(q.id)}>
              <Plus size={13} aria-hidden />
              {q.name}
            </Button>
          ))}
        </div>
      </div>
    </Part>
  )
}
