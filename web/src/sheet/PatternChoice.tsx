import type { Layer } from '../api/client'
import { useScene } from '../state/scene'
import { Choice } from '../ui/Choice'
import { NumberField } from '../ui/NumberField'

import { PATTERNS, choosePattern } from './patterns'
import { RowsFields } from './RowsFields'

const USUAL = { radius_m: 1.5, plants: 12 }

/** How places are chosen, and what clumps are like where they lie in clumps. */
export function PatternChoice({ layer }: { layer: Layer }) {
  const { editLayer } = useScene.getState()
  const clumps = layer.clumps ?? USUAL
  const change = (part: Partial<typeof clumps>, gesture?: string) => editLayer(layer.id, { set: 'clumps', value: { ...clumps, ...part } }, gesture)
  return (
    <div className="flex flex-col items-start gap-2">
      <Choice
        label="Pattern"
        value={layer.pattern}
        disabled={layer.locked}
        options={PATTERNS.slice(0, 3)}
        onChange={(value) => choosePattern(layer, value)}
      />
      <Choice
        label="Pattern, laid out"
        value={layer.pattern}
        disabled={layer.locked}
        options={PATTERNS.slice(3)}
        onChange={(value) => choosePattern(layer, value)}
      />
      {(layer.pattern === 'rows' || layer.pattern === 'along') && <RowsFields layer={layer} />}
      {layer.pattern === 'clumped' && (
        <div className="grid w-full grid-cols-2 gap-2">
          <NumberField label="Clump radius" testId="clump-radius" unit="m" value={clumps.radius_m} min={0.02} max={200} step={0.05} digits={2} fallback={USUAL.radius_m} disabled={layer.locked}
            hint="How far a clump reaches from its middle: seven of eight stand within. Clumps stay where they are." onChange={(radius_m, gesture) => change({ radius_m }, gesture)} />
          <NumberField label="Plants a clump" testId="clump-plants" value={clumps.plants} min={2} max={500} step={0.5} digits={1} fallback={USUAL.plants} disabled={layer.locked}
            hint="On average; some have fewer, some more." onChange={(plants, gesture) => change({ plants }, gesture)} />
        </div>
      )}
    </div>
  )
}
