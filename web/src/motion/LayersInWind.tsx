import type { Schemas } from '../api/client'
import { useScene } from '../state/scene'
import { NumberField } from '../ui/NumberField'
import { Part } from '../ui/Part'
import { showNumber } from '../ui/parse'

/** Every layer that is shown: what it meets of the wind, how it sways, and how much of the wind it takes. */
export function LayersInWind({ facts }: { facts: Schemas['MotionFacts'] | undefined }) {
  const layers = useScene((s) => s.scene!.document.layers).filter((l) => l.visible)
  const { editLayer } = useScene.getState()
  const rows = layers.flatMap((layer) => {
    const told = facts?.layers.find((l) => l.id === layer.id)?.species ?? []
    const sways = told.flatMap((s) => (s.sway ? [{ ...s, sway: s.sway }] : []))
    return sways.length > 0 ? [{ layer, first: sways[0], hz: sways.map((s) => s.sway.hz) }] : []
  })
  const stiff = layers.length - rows.length
  return (
    <Part title="Layers" summary={facts && stiff > 0 && `${stiff} ${stiff === 1 ? 'stands' : 'stand'} stiff`}>
      <ul className="flex flex-col gap-1" data-testid="layers-in-wind">
        {rows.map(({ layer, first, hz }) => (
          <li key={layer.id} className="grid grid-cols-[1fr_84px] items-center gap-2">
            <span className="min-w-0">
              <span className="block truncate">{layer.name}</span>
              <span className="block text-[11px] leading-4 text-soft">
                {showNumber(first.push.speed_m_per_s, 1)} m/s, sways {showNumber(Math.min(...hz), 1)}
                {Math.max(...hz) > Math.min(...hz) * 1.1 && ` to ${showNumber(Math.max(...hz), 1)}`} times a second
              </span>
            </span>
            <NumberField
              label={`Share of the wind ${layer.name} takes`} hideLabel testId={`wind-share-${layer.id}`} unit="%" value={(layer.wind_share ?? 1) * 100} min={0} max={100} step={1}
              digits={0} fallback={100} disabled={layer.locked} hint="How much of the wind its plants take; 0 keeps them out of it. Changes nothing that grows."
              onChange={(v, g) => editLayer(layer.id, { set: 'wind_share', value: v / 100 }, g)}
            />
          </li>
        ))}
      </ul>
      {layers.length === 0 && <p className="text-soft">Nothing grows yet.</p>}
      {facts && layers.length > 0 && rows.length === 0 && <p className="text-soft">Nothing here bends: stones, cushions and pads stand stiff.</p>}
    </Part>
  )
}
