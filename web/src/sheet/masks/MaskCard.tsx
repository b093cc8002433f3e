import { FlipVertical2, Layers2, Trash2 } from 'lucide-react'
import type { Layer, Mask, Response } from '../../api/client'
import { usePlants } from '../../state/data'
import { useScene } from '../../state/scene'
import { useUi } from '../../state/ui'
import { Choice } from '../../ui/Choice'
import { IconButton } from '../../ui/IconButton'
import { NumberField } from '../../ui/NumberField'
import { Switch } from '../../ui/Switch'
import { showNumber } from '../../ui/parse'
import { ResponseCurve } from '../ResponseCurve'
import { settled } from '../response'
import { AspectFields } from './AspectFields'
import { CombineFields } from './CombineFields'
import { NearFields } from './NearFields'
import { NoiseFields } from './NoiseFields'
import { NoisePicture } from './NoisePicture'
import { PaintFields } from './PaintFields'
import { PictureFields } from './PictureFields'
import { ShotChoice } from './ShotChoice'
import { SunFields } from './SunFields'
import { QUANTITIES } from './quantities'
import { asBand, bandOf, wantedEnds } from './distanceBand'
import { useSpread } from './useMaskQuantity'

const ENDS = [
  { key: 'start', name: 'starts at', hint: 'Up to here nothing grows.' },
  { key: 'full_from', name: 'full from', hint: 'From here everything may grow.' },
  { key: 'full_to', name: 'full to', hint: 'Up to here everything may grow.' },
  { key: 'end', name: 'ends at', hint: 'From here on nothing grows.' },
] as const

/** One mask: how the ground lies over its quantity, and the curve that says what may grow where. */
export function MaskCard({ layer, mask }: { layer: Layer; mask: Mask }) {
  const { editLayer } = useScene.getState()
  const set = useUi((s) => s.set)
  const { data: plants } = usePlants(layer)
  const shown = useUi((s) => s.maskShown)
  const { name, unit, low, high, step, digits } = QUANTITIES[mask.quantity]
  const histogram = useSpread(layer, mask)
  const pinned = shown?.pinned === true && shown.layer === layer.id && shown.mask === mask.id
  const share = plants?.tally.mask_shares[layer.masks.indexOf(mask)]

  const edit = (part: Partial<Mask>, gesture?: string) => editLayer(layer.id, { set: 'mask', value: { ...mask, ...part } }, gesture)
  const change = (response: Response, gesture?: string) => edit({ response }, gesture)

  return (
    <div
      className={mask.enabled ? '' : 'opacity-60'}
      data-testid={`mask-${mask.quantity}`}
    >
      <header className="flex items-center gap-1">
        <h4 className="font-medium">{name}</h4>
        <span className="ml-auto text-xs text-soft" data-testid="share">
          {share !== undefined && `${mask.drives && mask.drives.what !== 'amount' ? 'comes to' : 'lets through'} ${showNumber(share * 100, share < 0.1 ? 1 : 0)} %`}
        </span>
        <IconButton
          icon={Layers2}
          label={pinned ? `${name}: take it off the ground` : `${name}: show it on the ground`}
          on={pinned}
          onClick={() => set({ maskShown: pinned ? null : { layer: layer.id, mask: mask.id, pinned: true } })}
        />
        <IconButton
          icon={FlipVertical2}
          label={mask.response.inverted ? `${name}: allowed outside the curve` : `${name}: invert`}
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
      {mask.noise && <NoiseFields noise={mask.noise} disabled={layer.locked} onChange={(noise, gesture) => edit({ noise }, gesture)} />}
      {mask.noise && <NoisePicture layer={layer} mask={mask} />}
      {mask.paint != null && <PaintFields layer={layer} paint={mask.paint} onChoose={(paint) => edit({ paint })} />}
      {mask.near && <NearFields layer={layer} near={mask.near} downhill={mask.quantity === 'downhill'} onChange={(near, gesture) => edit({ near }, gesture)} />}
      {mask.shot != null && <ShotChoice layer={layer} shot={mask.shot} onChange={(shot) => edit({ shot })} />}
      {mask.wind && (
        <div className="mt-1 w-36">
          <NumberField label="Wind mostly from" testId="mask-wind-from" unit="°" value={mask.wind.from_deg} min={0} max={360} step={1} digits={0} disabled={layer.locked}
            hint="Degrees clockwise from north. What grew up in it stays where it is when the wind of the Motion station turns." onChange={(from_deg, gesture) => edit({ wind: { from_deg } }, gesture)} />
        </div>
      )}
      {mask.sun && <SunFields sun={mask.sun} disabled={layer.locked} onChange={(sun, gesture) => edit({ sun }, gesture)} />}
      {mask.picture && <PictureFields layer={layer} mask={mask} look={mask.picture} onChange={(picture, gesture) => edit({ picture }, gesture)} />}
      {histogram && (
        <ResponseCurve
          name={name}
          unit={unit}
          digits={digits}
          histogram={histogram}
          response={mask.response}
          disabled={layer.locked}
          onChange={change}
          onHold={(held) => !pinned && set({ maskShown: held ? { layer: layer.id, mask: mask.id } : null })}
        />
      )}
      {mask.near && (
        <div className="mt-1.5">
          <Choice
            label="Which distances"
            value={bandOf(mask.response)}
            options={[
              { value: 'far', name: 'Farther than', hint: 'Keeps off it.' },
              { value: 'near', name: 'Nearer than', hint: 'Keeps close to it.' },
              { value: 'ring', name: 'A ring', hint: 'Neither close to it nor far off.' },
            ]}
            disabled={layer.locked}
            onChange={(to) => change(asBand(mask.response, to))}
          />
        </div>
      )}
      {mask.quantity === 'aspect' && <AspectFields response={mask.response} disabled={layer.locked} onChange={change} />}
      {mask.quantity !== 'aspect' && <div className="mt-1.5 grid grid-cols-4 gap-1">
        {ENDS.filter((e) => !mask.near || wantedEnds(bandOf(mask.response)).includes(e.key)).map((e) => (
          <NumberField
            key={e.key}
            label={e.name}
            value={mask.response[e.key]}
            min={low}
            max={high}
            step={step}
            digits={digits}
            disabled={layer.locked}
            hint={e.hint}
            testId={`mask-${mask.quantity}-${e.key}`}
            onChange={(value, gesture) => change(settled(mask.response, e.key, value), gesture)}
          />
        ))}
      </div>}
      <CombineFields layer={layer} mask={mask} onChange={edit} />
    </div>
  )
}
