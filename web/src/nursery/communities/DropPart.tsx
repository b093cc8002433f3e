import { Sprout } from 'lucide-react'
import { useEffect, useState } from 'react'
import { useScene } from '../../state/scene'
import { useUi } from '../../state/ui'
import { Button } from '../../ui/Button'
import { showCount, showNumber } from '../../ui/parse'
import { sayBytes } from '../kinds'
import { useDropPlan, type Community } from './useCommunities'

/** Above this many plants a drop is called heavy, and lighter ways are named. */
const HEAVY = 2_000_000

/** What a community will come to, and where it is dropped. */
export function DropPart({ view }: { view: Community }) {
  const document = useScene((s) => s.scene!.document)
  const { run } = useScene.getState()
  const { set } = useUi()
  const [ground, setGround] = useState<number | null>(null)
  const { data: plan, error } = useDropPlan(view.id, ground)
  const [asked, setAsked] = useState(false)
  const drop = () => {
    // A click that comes before it is known how heavy it will be is not lost.
    if (!plan) return setAsked(true)
    setAsked(false)
    run(plan.command)
    const added = plan.command.do === 'all' ? plan.command.commands.find((c) => c.do === 'add_layer') : undefined
    if (added?.do === 'add_layer') set({ layer: added.layer.id, station: 'planting' })
  }
  useEffect(() => {
    if (asked && plan) drop()
  }, [asked, plan]) // eslint-disable-line react-hooks/exhaustive-deps
  const places = [...(document.ground.absent ? [] : [{ id: 0, name: 'The land' }]), ...(document.grounds ?? [])]
  return (
    <>
      {places.length > 1 && (
        <label className="mb-2 flex items-center gap-2 text-xs text-soft">
          On
          <select
            value={ground ?? ''}
            onChange={(e) => setGround(e.currentTarget.value === '' ? null : Number(e.currentTarget.value))}
            className="h-7 rounded-md border border-rule bg-panel px-1.5 text-[13px] text-ink"
          >
            <option value="">all grounds</option>
            {places.map((g) => (
              <option key={g.id} value={g.id}>
                {g.name}
              </option>
            ))}
          </select>
        </label>
      )}
      {error && <p className="mb-2 text-iron">{error.message}</p>}
      {!plan && !error && <p className="mb-2 text-soft">Working out how heavy it will be…</p>}
      {plan && (
        <table className="mb-2 w-full text-xs" data-testid="forecast">
          <tbody>
            {plan.forecast.layers.map((l) => (
              <tr key={l.name} className="border-b border-rule">
                <td className="py-0.5">{l.name}</td>
                <td className="text-right font-mono">{showCount(l.plants)}</td>
                <td className="pl-2 text-right font-mono text-soft">{showCount(l.triangles)} tri.</td>
              </tr>
            ))}
            <tr className="font-medium">
              <td className="pt-1">In all</td>
              <td className="pt-1 text-right font-mono" data-testid="forecast-plants">{showCount(plan.forecast.plants)}</td>
              <td className="pt-1 pl-2 text-right font-mono text-soft">{showNumber(plan.forecast.triangles / 1e6, 1)} M tri.</td>
            </tr>
            <tr>
              <td className="text-soft">Memory, about</td>
              <td />
              <td className="pl-2 text-right font-mono text-soft">{sayBytes(plan.forecast.bytes)}</td>
            </tr>
          </tbody>
        </table>
      )}
      {plan && plan.forecast.plants > HEAVY && (
        <p className="mb-2 text-xs text-iron">That is heavy. Drop it on one ground, or lower its amounts in the layers before showing all of them.</p>
      )}
      <Button look="primary" disabled={error !== null || (asked && !plan)} onClick={drop}>
        <Sprout size={13} aria-hidden />
        {plan && plan.forecast.layers.length === 0 ? 'Bring its species in' : asked && !plan ? 'Dropping\u2026' : 'Drop it here'}
      </Button>
    </>
  )
}
