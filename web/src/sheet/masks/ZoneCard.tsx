import { Trash2 } from 'lucide-react'
import type { Layer, Mask } from '../../api/client'
import { usePlants } from '../../state/data'
import { useScene } from '../../state/scene'
import { Choice } from '../../ui/Choice'
import { IconButton } from '../../ui/IconButton'
import { Switch } from '../../ui/Switch'
import { showNumber } from '../../ui/parse'
import { CombineFields } from './CombineFields'

/** A mask that keeps a layer in a zone or out of it. */
export function ZoneCard({ layer, mask }: { layer: Layer; mask: Mask }) {
  const { editLayer } = useScene.getState()
  const zones = useScene((s) => s.scene!.document.zones) ?? []
  const { data: plants } = usePlants(layer)
  const share = plants?.tally.mask_shares[layer.masks.indexOf(mask)]
  const zone = zones.find((z) => z.id === mask.zone)
  const name = zone?.name ?? 'a zone that is gone'
  const change = (part: Partial<Mask>, gesture?: string) => editLayer(layer.id, { set: 'mask', value: { ...mask, ...part } }, gesture)
  return (
    <div className={mask.enabled ? '' : 'opacity-60'} data-testid="mask-zone">
      <header className="flex items-center gap-1">
        <h4 className="font-medium">Zone</h4>
        <span className="ml-auto text-xs text-soft" data-testid="share">
          {share !== undefined && `lets through ${showNumber(share * 100, share < 0.1 ? 1 : 0)} %`}
        </span>
        <IconButton icon={Trash2} label="Remove zone mask" disabled={layer.locked} onClick={() => editLayer(layer.id, { set: 'masks', value: layer.masks.filter((m) => m.id !== mask.id) })} />
        <Switch label="Zone mask" on={mask.enabled} disabled={layer.locked} onChange={(enabled) => change({ enabled })} />
      </header>
      <div className="mt-1.5 flex flex-wrap items-center gap-2">
        <Choice
          label="In the zone or out of it"
          value={mask.response.inverted ? 'out' : 'in'}
          options={[
            { value: 'in', name: 'In', hint: 'Plants stand in the zone only; its soft edge thins them out.' },
            { value: 'out', name: 'Out of', hint: 'Plants keep out of the zone.' },
          ]}
          onChange={(side) => change({ response: { ...mask.response, inverted: side === 'out' } })}
        />
        <select
          aria-label="Which zone"
          data-testid="mask-zone-which"
          className="h-7 min-w-0 flex-1 rounded-md border border-rule bg-panel px-2"
          disabled={layer.locked}
          value={mask.zone ?? ''}
          onChange={(e) => change({ zone: Number(e.currentTarget.value) })}
        >
          {!zone && <option value={mask.zone ?? ''}>{name}</option>}
          {zones.map((z) => (
            <option key={z.id} value={z.id}>
              {z.name}
            </option>
          ))}
        </select>
      </div>
      <CombineFields layer={layer} mask={mask} onChange={change} />
    </div>
  )
}
