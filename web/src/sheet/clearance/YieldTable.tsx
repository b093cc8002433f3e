import type { Layer, Tally } from '../../api/client'
import { keyOf } from '../../profile/keyColour'
import { useScene } from '../../state/scene'
import { YieldSelect } from './YieldSelect'

/** How this layer stands to each of the others: who keeps clear of whom. */
export function YieldTable({ layer, tally }: { layer: Layer; tally: Tally | undefined }) {
  const scene = useScene((s) => s.scene!)
  const { layers } = scene.document
  const refused = (id: number) => tally?.refused.find((r) => r.reason.rule === 'layer' && r.reason.id === id)?.count ?? 0
  const order = [...scene.layers].sort((a, b) => a.claims_at - b.claims_at).map((l) => l.id)
  const others = layers
    .filter((l) => l.id !== layer.id && l.on_plants !== layer.id && layer.on_plants !== l.id)
    .sort((a, b) => order.indexOf(a.id) - order.indexOf(b.id))
  if (others.length === 0) return null
  return (
    <table className="w-full text-xs" data-testid="yields" aria-label="Who yields to whom">
      <thead>
        <tr className="text-left text-soft">
          <th className="py-0.5 font-normal">{layer.name}</th>
          <th className="font-normal">comes first where they meet</th>
          <th className="text-right font-normal">refused</th>
        </tr>
      </thead>
      <tbody>
        {others.map((other) => {
          const off = other.clearance === undefined || other.clearance.others.by === 'nothing'
          return (
            <tr key={other.id} className="border-t border-rule">
              <td className="max-w-28 truncate py-0.5 pr-2">
                <span className="mr-1.5 inline-block size-2 rounded-sm" style={{ background: keyOf(other.id).colour }} aria-hidden />
                {other.name}
              </td>
              <td className="py-0.5">
                {off ? (
                  <span className="text-soft" title="It keeps clear of no other layer, and none of it.">keeps clear of none</span>
                ) : (
                  <YieldSelect of={layer.id} to={other.id} />
                )}
              </td>
              <td className="py-0.5 pl-2 text-right font-mono text-soft" title="Plants of this layer refused by it">{refused(other.id) > 0 && refused(other.id).toLocaleString('en')}</td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}
