import { useState } from 'react'
import type { Layer, Schemas } from '../../api/client'
import { useFits, usePlants } from '../../state/data'
import { useScene } from '../../state/scene'
import { Button } from '../../ui/Button'
import { NumberField } from '../../ui/NumberField'
import { Part } from '../../ui/Part'
import { BareStrip } from './BareStrip'
import { clearanceOf } from './clearance'
import { KeepRow } from './KeepRow'
import { OrderWords } from './OrderWords'
import { YieldTable } from './YieldTable'

const said = (n: number | undefined, what: string) => (n ? `${n.toLocaleString('en')} ${what}` : undefined)

/** What it keeps clear of: its own kind, other layers, obstacles and edges. */
export function KeepsClear({ layer }: { layer: Layer }) {
  const { data: plants } = usePlants(layer)
  const { data: fits } = useFits(layer)
  const { editLayer } = useScene.getState()
  const [open, setOpen] = useState(false)
  const clear = clearanceOf(layer)
  const count = (rule: Schemas['Reason']['rule']) => (plants?.tally.refused ?? []).filter((r) => r.reason.rule === rule).reduce((sum, r) => sum + r.count, 0)
  const refused = count('own_kind') + count('layer') + count('obstacle') + count('edge') + count('track')
  const trims = (k: 'edges' | 'tracks') => clear[k].by !== 'nothing' && clear[k].response === 'trim'
  const shrinks = (['obstacles', 'edges', 'tracks'] as const).some((k) => clear[k].by !== 'nothing' && clear[k].response === 'shrink')
  return (
    <Part title="Clearance" settings={['clearance']} summary={plants && `${refused.toLocaleString('en')} without room`}>
      <div className="flex flex-col gap-3">
        <KeepRow layer={layer} of="own" name="Its own kind" hint="Plants of this layer. The one that appears first stands." count={count('own_kind')} />
        <KeepRow layer={layer} of="others" name="Other layers" hint="Of two layers the one whose tallest species grows lower keeps clear of the other, and plants keep clear of stones." count={count('layer')} />
        {clear.others.by !== 'nothing' && (
          <div>
            <OrderWords layer={layer} />
            <Button look="quiet" onClick={() => setOpen(!open)} aria-expanded={open}>
              {open ? 'Fold the table' : 'Who yields to whom'}
            </Button>
            {open && <YieldTable layer={layer} tally={plants?.tally} />}
          </div>
        )}
        <KeepRow layer={layer} of="obstacles" name="Obstacles" hint="By exact distance to their mesh; hidden ones count too." count={count('obstacle')} fitted={said(fits?.bent, 'bent aside')} />
        <KeepRow layer={layer} of="edges" name="Edges of zones" hint="Nothing hangs over the edge of a zone that a mask lets through." count={count('edge')} fitted={trims('edges') ? said(fits?.trimmed, 'cut') : undefined} />
        <KeepRow layer={layer} of="tracks" name="Tracks" hint="Nothing reaches onto a track, at its width." count={count('track')} fitted={trims('tracks') && !trims('edges') ? said(fits?.trimmed, 'cut') : undefined} />
        {(clear.edges.by !== 'nothing' || clear.tracks.by !== 'nothing') && <BareStrip layer={layer} />}
        {Boolean(fits?.gone || fits?.left) && (
          <p className="text-xs text-alarm" role="status" data-testid="fits-left">
            {fits!.gone > 0 && `${fits!.gone.toLocaleString('en')} find no way around and are not shown. `}
            {fits!.left > 0 && `${fits!.left.toLocaleString('en')} more than can be fitted keep their usual form: narrow the margin or thin the layer.`}
          </p>
        )}
        {shrinks && (
          <div className="w-32">
            <NumberField label="Least size" testId="least" unit="%" value={Math.round(clear.least * 1000) / 10} min={5} max={100} step={1} digits={0} fallback={30} disabled={layer.locked}
              hint="How small shrinking may make a plant, against its own size. Below that it does not stand."
              onChange={(v, gesture) => editLayer(layer.id, { set: 'clearance', value: { ...clear, least: v / 100 } }, gesture)} />
          </div>
        )}
      </div>
    </Part>
  )
}
