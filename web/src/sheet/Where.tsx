import { Plus } from 'lucide-react'
import type { Layer, Mask } from '../api/client'
import { usePlants } from '../state/data'
import { freshId, useScene } from '../state/scene'
import { Button } from '../ui/Button'
import { Part } from '../ui/Part'
import { showNumber } from '../ui/parse'
import { useHistogram } from './histograms'
import { GrowsOn } from './GrowsOn'
import { MaskCard } from './MaskCard'
import { ZoneCard } from './ZoneCard'

const QUANTITIES = [
  { id: 'slope', name: 'Slope' },
  { id: 'altitude', name: 'Altitude' },
] as const

/** Where: the layer's masks, one card each. */
export function Where({ layer }: { layer: Layer }) {
  const { editLayer } = useScene.getState()
  const { data: plants } = usePlants(layer)
  const zones = useScene((s) => s.scene!.document.zones) ?? []
  const altitude = useHistogram(layer, 'altitude')
  // A layer may have no ground to grow on.
  const share = plants && plants.tally.ground_m2 > 0 ? plants.tally.allowed_m2 / plants.tally.ground_m2 : null

  const add = (quantity: 'slope' | 'altitude') => {
    const [low, high] = quantity === 'slope' ? [0, 90] : [altitude?.low ?? 0, altitude?.high ?? 100]
    const at = (t: number) => Number((low + (high - low) * t).toFixed(1))
    const response = { start: at(0), full_from: at(0), full_to: at(0.5), end: at(0.6), inverted: false }
    const mask: Mask = { id: freshId(layer.masks), quantity, enabled: true, response }
    editLayer(layer.id, { set: 'masks', value: [...layer.masks, mask] })
  }
  const addZone = (zone: number) => {
    // All of its value and no band of it: as much as the point belongs to the zone.
    const response = { start: 0, full_from: 1, full_to: 1, end: 1, inverted: false }
    editLayer(layer.id, { set: 'masks', value: [...layer.masks, { id: freshId(layer.masks), quantity: 'zone', zone, enabled: true, response }] })
  }
  return (
    <Part
      title="Where"
      settings={['grounds', ...layer.masks.map((m) => `mask:${m.id}`)]}
      summary={share !== null && `${layer.masks.length} masks, ${showNumber(share * 100, 1)} % of the ground`}
    >
      <div className="flex flex-col gap-2">
        <GrowsOn layer={layer} />
        {layer.masks.map((mask) => (
          <div key={mask.id} data-setting={`mask:${mask.id}`} className="rounded-md border border-rule px-2.5 py-2">
            {mask.quantity === 'zone' ? <ZoneCard layer={layer} mask={mask} /> : <MaskCard layer={layer} mask={mask} />}
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
          <Button
            look="quiet"
            data-testid="add-zone-mask"
            disabled={layer.locked || zones.length === 0}
            title={zones.length === 0 ? 'Name a part of the ground first: Site, Zones' : undefined}
            onClick={() => addZone(zones[0].id)}
          >
            <Plus size={13} aria-hidden />
            Zone
          </Button>
        </div>
      </div>
    </Part>
  )
}
