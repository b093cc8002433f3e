import type { Layer } from '../../api/client'
import { Choice } from '../../ui/Choice'
import { NumberField } from '../../ui/NumberField'
import { Responses } from './Responses'
import { changeKeep, clearanceOf, type Keep, type Kept, type Sided } from './clearance'

const REACHES: { value: Keep['by']; name: string; hint: string }[] = [
  { value: 'nothing', name: 'Nothing', hint: 'It keeps no distance' },
  { value: 'footprint', name: 'Footprint', hint: 'What stands on the ground keeps clear, at its real size' },
  { value: 'crown', name: 'Crown', hint: 'All of the plant as seen from above keeps clear, at its real size' },
]
type Response = NonNullable<Keep['response']>
const COMMON: { value: Response; name: string; hint: string }[] = [
  { value: 'remove', name: 'Remove', hint: 'A plant with too little room is left out' },
  { value: 'shrink', name: 'Shrink', hint: 'It is made as small as its room; below the least size it is left out' },
]
const TRIM: (typeof COMMON)[0] = { value: 'trim', name: 'Trim', hint: 'Only its base point needs room: what hangs over is cut off' }
const RESPONSES: Record<Sided, typeof COMMON> = {
  obstacles: [...COMMON, { value: 'bend', name: 'Bend aside', hint: 'Only its footprint needs room: blades and stems that reach in lean and wrap around. Woody plants and stones cannot, and do not stand.' }],
  edges: [...COMMON, TRIM],
  tracks: [...COMMON, TRIM],
}
const isSided = (of: Kept): of is Sided => of in RESPONSES

/** How plants keep clear of one kind of thing: by what of them, with which margin, and what happens otherwise. */
export function KeepRow({ layer, of, name, hint, count, fitted }: { layer: Layer; of: Kept; name: string; hint: string; count: number; fitted?: string }) {
  const keep = clearanceOf(layer)[of]
  const on = keep.by !== 'nothing'
  return (
    <div className="flex flex-col gap-1.5" data-testid={`keep-${of}`}>
      <div className="flex items-baseline justify-between gap-2">
        <span title={hint}>{name}</span>
        <span className="font-mono text-xs text-soft">{[count > 0 && `${count.toLocaleString('en')} refused`, fitted].filter(Boolean).join(', ')}</span>
      </div>
      <div className="flex flex-wrap items-end gap-2">
        <Choice label={`${name}: keeps clear by`} value={keep.by} disabled={layer.locked} options={REACHES} onChange={(by) => changeKeep(layer, of, { by })} />
        {on && (
          <div className="w-20">
            <NumberField label="Margin" testId={`margin-${of}`} unit="m" value={keep.margin_m ?? 0} min={-10} max={100} step={0.02} digits={2} fallback={0} disabled={layer.locked}
              hint={of === 'edges' || of === 'tracks' ? 'Room beside that. Below zero it is overdraw: they may reach over by so much, so that no bare strip is left.' : 'Room beside that. Below zero they may reach into one another.'} onChange={(margin_m, gesture) => changeKeep(layer, of, { margin_m }, gesture)} />
          </div>
        )}
        {isSided(of) && (
          <Choice
            label={`${name}: too near`} value={on ? (keep.response ?? 'remove') : null} disabled={layer.locked} options={RESPONSES[of]}
            // What is asked for while nothing is kept clear says that something is to be.
            onChange={(response) => changeKeep(layer, of, on ? { response } : { by: response === 'trim' ? 'crown' : 'footprint', response })}
          />
        )}
      </div>
      {on && isSided(of) && <Responses layer={layer} beside={of} />}
    </div>
  )
}
