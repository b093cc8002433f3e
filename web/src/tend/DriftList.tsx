import { Dices, Trash2 } from 'lucide-react'
import type { Layer } from '../api/client'
import { IconButton } from '../ui/IconButton'
import { NumberField } from '../ui/NumberField'
import { RangeField } from '../ui/RangeField'
import { expectedOf, lengthOf, putDrifts, settingsFor } from './drifts'
import { useHand, type DriftSettings } from './hand'
import { showNumber } from '../ui/parse'

/** The drifts of a layer, and the numbers of the chosen one or of the next. */
export function DriftList({ layer }: { layer: Layer }) {
  const { chosen, way, set } = useHand()
  const drifts = layer.drifts ?? []
  const own = drifts.find((d) => d.id === chosen)
  const now = settingsFor(layer)
  const change = (part: Partial<DriftSettings>, gesture?: string) => {
    if (own) putDrifts(layer, [{ ...own, ...part }], gesture)
    set({ strew: { ...now, ...part } })
  }
  const common = { disabled: layer.locked }
  return (
    <div className="flex flex-col gap-2" data-testid="drifts">
      {(way === 'strew' || own) && (
        <>
          <p className="text-xs text-soft">{own ? `Drift ${drifts.indexOf(own) + 1}; the next begins with the same numbers.` : 'For the next stroke.'}</p>
          <div className="grid grid-cols-2 gap-2">
            <NumberField label="Density" testId="drift-density" unit="per m²" value={now.per_m2} min={0.01} max={1000} step={0.5} digits={2} {...common}
              hint="Plants for each square metre beside the line. Several strokes over one place strew more." onChange={(per_m2, gesture) => change({ per_m2 }, gesture)} />
            <NumberField label="Spread" testId="drift-spread" unit="m" value={now.spread_m} min={0.02} max={50} step={0.1} digits={2} {...common}
              hint="How far from the line they are strewn: dense at the line, few at the rim." onChange={(spread_m, gesture) => change({ spread_m }, gesture)} />
          </div>
          <RangeField label="Size, times full size" testId="drift-size" unit="×" value={now.size} min={0.01} max={100} step={0.02} digits={2} {...common} onChange={(size, gesture) => change({ size }, gesture)} />
          <RangeField label="Turn" testId="drift-turn" unit="°" value={now.turn_deg} min={-360} max={360} step={5} digits={0} {...common} onChange={(turn_deg, gesture) => change({ turn_deg }, gesture)} />
        </>
      )}
      {drifts.length > 0 && (
        <ul className="flex max-h-44 flex-col overflow-y-auto">
          {drifts.map((d, i) => (
            <li key={d.id} className={`flex items-center gap-1 border-t border-rule py-0.5 pl-1 ${d.id === chosen ? 'bg-thrift-wash' : ''}`}>
              <button type="button" className="flex-1 text-left" aria-pressed={d.id === chosen} onClick={() => set({ chosen: d.id === chosen ? null : d.id, items: [], ...(way === 'strew' || way === 'erase' ? { way: 'one' } : {}) })}>
                Drift {i + 1} <span className="ml-2 font-mono text-xs text-soft">{showNumber(lengthOf(d), 1)} m, about {Math.round(expectedOf(d)).toLocaleString('en')}</span>
              </button>
              <IconButton icon={Dices} label={`Arrange drift ${i + 1} anew`} disabled={layer.locked} onClick={() => putDrifts(layer, [{ ...d, seed: Math.floor(Math.random() * 2 ** 31) }])} />
              <IconButton icon={Trash2} label={`Take drift ${i + 1} out`} disabled={layer.locked} onClick={() => putDrifts(layer, [], undefined, [d.id])} />
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}
