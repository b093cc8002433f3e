import type { Layer, Schemas } from '../api/client'
import { useScene } from '../state/scene'
import { NumberField } from '../ui/NumberField'
import { ColourField } from '../ui/ColourField'

const NONE: Schemas['Tint'] = { colour: [1, 1, 1], strength: 0, spread: 0 }
/** What a tint begins with: dry grass. */
const FIRST = [0.78, 0.68, 0.42]

/** A colour laid over a layer's plants, and how far single plants are lighter or darker. */
export function TintFields({ layer }: { layer: Layer }) {
  const { editLayer } = useScene.getState()
  const tint = layer.tint ?? NONE
  const change = (part: Partial<typeof tint>, gesture?: string) => editLayer(layer.id, { set: 'tint', value: { ...tint, ...part } }, gesture)
  const plain = tint.strength === 0 && tint.colour.every((c) => c === 1)
  return (
    <div className="grid grid-cols-[auto_1fr_1fr] items-end gap-2" data-setting="tint">
      <ColourField label="Tint" value={plain ? FIRST : tint.colour} disabled={layer.locked}
        onChange={(colour, gesture) => change({ colour, strength: tint.strength === 0 ? 0.5 : tint.strength }, gesture)} />
      <NumberField label="How far" testId="tint-strength" unit="%" value={tint.strength * 100} min={0} max={100} step={1} digits={0} fallback={0} disabled={layer.locked}
        hint="How far their colours go towards it. Light and dark stay as the species has them."
        onChange={(v, gesture) => change({ strength: v / 100, colour: plain ? FIRST : tint.colour }, gesture)} />
      <NumberField label="Plant to plant" testId="tint-spread" unit="%" value={tint.spread * 100} min={0} max={100} step={1} digits={0} fallback={0} disabled={layer.locked}
        hint="How much lighter or darker single plants are: at 100 by half to either side." onChange={(v, gesture) => change({ spread: v / 100 }, gesture)} />
    </div>
  )
}
