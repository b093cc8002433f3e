import type { Layer } from '../api/client'
import { usePlants } from '../state/data'
import { Part } from '../ui/Part'
import { showNumber } from '../ui/parse'
import { GrowsOn } from './GrowsOn'
import { AddMask } from './masks/AddMask'
import { MaskCard } from './masks/MaskCard'
import { ZoneCard } from './masks/ZoneCard'

/** Where: the layer's masks, one card each. */
export function Where({ layer }: { layer: Layer }) {
  const { data: plants } = usePlants(layer)
  // A layer may have no ground to grow on.
  const share = plants && plants.tally.ground_m2 > 0 ? plants.tally.allowed_m2 / plants.tally.ground_m2 : null

  return (
    <Part
      title="Where"
      settings={['grounds', ...layer.masks.map((m) => `mask:${m.id}`)]}
      summary={share !== null && `${layer.masks.length} ${layer.masks.length === 1 ? 'mask' : 'masks'}, ${showNumber(share * 100, 1)} % of the ground`}
    >
      <div className="flex flex-col gap-2">
        <GrowsOn layer={layer} />
        {layer.masks.map((mask) => (
          <div key={mask.id} data-setting={`mask:${mask.id}`} className="rounded-md border border-rule px-2.5 py-2">
            {mask.quantity === 'zone' ? <ZoneCard layer={layer} mask={mask} /> : <MaskCard layer={layer} mask={mask} />}
          </div>
        ))}
        {layer.masks.length === 0 && <p className="text-soft">Everywhere. Add a mask to say where not.</p>}
        <AddMask layer={layer} />
      </div>
    </Part>
  )
}
