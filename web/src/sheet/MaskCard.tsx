import { FlipVertical2, Trash2 } from 'lucide-react'
import type { Layer, Mask, Response } from '../api/client'
import { usePlants } from '../state/data'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { IconButton } from '../ui/IconButton'
import { NumberField } from '../ui/NumberField'
import { Switch } from '../ui/Switch'
import { showNumber } from '../ui/parse'
import { useHistogram } from './histograms'
import { ResponseCurve } from './ResponseCurve'
import { settled } from './response'

const ENDS = [
  { key: 'start', name: 'none below', hint: 'Up to here nothing grows.' },
  { key: 'full_from', name: 'all from', hint: 'From here everything may grow.' },
  { key: 'full_to', name: 'all to', hint: 'Up to here everything may grow.' },
  { key: 'end', name: 'none above', hint: 'From here on nothing grows.' },
] as const

/** One mask: how the ground lies over its quantity, and the curve that says what may grow where. */
export function MaskCard({ layer, mask }: { layer: Layer; mask: Mask }) {
  const { editLayer } = useScene.getState()
  const set = useUi((s) => s.set)
  const { data: plants } = usePlants(layer)
  const slope = mask.quantity === 'slope'
  const name = slope ? 'Slope' : 'Altitude'
  const unit = slope ? '°' : 'm'
  const [low, high] = slope ? [0, 180] : [-12_000, 12_000]
  const histogram = useHistogram(layer, slope ? 'slope' : 'altitude')
  const share = plants?.tally.mask_shares[layer.masks.indexOf(mask)]

  const change = (response: Response, gesture?: string) =>
    editLayer(layer.id, { set: 'mask', value: { ...mask, response } }, gesture)

  return (
    <div
      className={mask.enabled ? '' : 'opacity-60'}
      onPointerEnter={() => set({ maskShown: null })}
      data-testid={`mask-${mask.quantity}`}
    >
      <header className="flex items-center gap-1">
        <h4 className="font-medium">{name}</h4>
        <span className="ml-auto text-xs text-soft" data-testid="share">
          {share !== undefined && `lets through ${showNumber(share * 100, share < 0.1 ? 1 : 0)} %`}
        </span>
        <IconButton
          icon={FlipVertical2}
          label={mask.response.inverted ? `${name}: allowed outside the curve` : `${name}: turn over`}
          on={mask.response.inverted}
          disabled={layer.locked}
          onClick={() => change({ ...mask.response, inverted: !mask.response.inverted })}
        />
        <IconButton
          icon={Trash2}
          label={`Remove ${name.toLowerCase()} mask`}
          disabled={layer.locked}
          onClick={() => editLayer(layer.id, { set: 'masks', value: layer.masks.filter((m) => m.id !== mask.id) })}
        />
        <Switch
          label={`${name} mask`}
          on={mask.enabled}
          disabled={layer.locked}
          onChange={(enabled) => editLayer(layer.id, { set: 'mask', value: { ...mask, enabled } })}
        />
      </header>
      {histogram && (
        <ResponseCurve
          name={name}
          unit={unit}
          histogram={histogram}
          response={mask.response}
          disabled={layer.locked}
          onChange={change}
          onHold={(held) => set({ maskShown: held ? { layer: layer.id, mask: mask.id } : null })}
        />
      )}
      <div className="mt-1.5 grid grid-cols-4 gap-1">
        {ENDS.map((e) => (
          <NumberField
            key={e.key}
            label={e.name}
            value={mask.response[e.key]}
            min={low}
            max={high}
            step={slope ? 0.5 : 0.25}
            digits={1}
            disabled={layer.locked}
            hint={e.hint}
            testId={`mask-${mask.quantity}-${e.key}`}
            onChange={(value, gesture) => change(settled(mask.response, e.key, value), gesture)}
          />
        ))}
      </div>
    </div>
  )
}
