import { ImagePlus } from 'lucide-react'
import { useRef } from 'react'
import type { Layer, Mask, Schemas } from '../../api/client'
import { useScene } from '../../state/scene'
import { Button } from '../../ui/Button'
import { Choice } from '../../ui/Choice'
import { ColourField } from '../../ui/ColourField'
import { NumberField } from '../../ui/NumberField'
import { Select } from '../../ui/Select'
import { Switch } from '../../ui/Switch'
import { coloursOf, uploadPicture } from './pictures'

type Look = Schemas['PictureLook']
type Picture = Schemas['GroundPicture']

const CHANNELS: { id: NonNullable<Look['channel']>; name: string }[] = [
  { id: 'grey', name: 'grey' },
  { id: 'red', name: 'red' },
  { id: 'green', name: 'green' },
  { id: 'blue', name: 'blue' },
  { id: 'cover', name: 'cover' },
]

interface PictureFieldsProps {
  layer: Layer
  mask: Mask
  look: Look
  onChange(look: Look, gesture?: string): void
}

/** Which picture a mask looks at, which channel or colour of it, and where it lies. */
export function PictureFields({ layer, mask, look, onChange }: PictureFieldsProps) {
  const { run } = useScene.getState()
  const document = useScene((s) => s.scene!.document)
  const file = useRef<HTMLInputElement>(null)
  const all = document.pictures ?? []
  const own = all.find((p) => p.id === look.id)
  const others = document.layers.filter((l) => l.id !== layer.id && l.masks.some((m) => m.picture?.id === look.id))
  const place = (part: Partial<Picture>, gesture?: string) => own && run({ do: 'put_picture', value: { ...own, ...part } }, gesture, gesture && `picture ${own.id}`)
  const metres = (label: string, key: 'x_m' | 'z_m' | 'width_m' | 'depth_m', min: number) => (
    <NumberField label={label} testId={`picture-${key}`} unit="m" value={own?.[key] ?? 0} min={min} max={100_000} step={0.5} digits={1} disabled={layer.locked || !own}
      onChange={(v, gesture) => place({ [key]: v }, gesture)} />
  )
  const onPlan = (look.laid ?? 'plan') === 'plan'
  const flat = own ? coloursOf(own.blob) : []
  return (
    <div className="mt-1 flex flex-col gap-2" data-testid="picture-fields">
      <div className="flex items-end gap-2">
        <label className="flex min-w-0 flex-1 flex-col gap-0.5 text-xs text-soft">
          Picture
          <select
            aria-label="Which picture" data-testid="mask-picture" disabled={layer.locked} value={look.id} onChange={(e) => onChange({ ...look, id: Number(e.currentTarget.value) })}
            className="h-7 min-w-0 rounded-md border border-rule bg-panel px-2 text-[13px] text-ink"
          >
            {!own && <option value={look.id}>a picture that is gone</option>}
            {all.map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
          </select>
        </label>
        <input ref={file} type="file" accept="image/png,image/jpeg" className="hidden"
          onChange={(e) => e.currentTarget.files?.[0] && void uploadPicture(layer, mask.quantity === 'colour' ? 'colour' : 'picture', e.currentTarget.files[0])} />
        <Button disabled={layer.locked} onClick={() => file.current!.click()}>
          <ImagePlus size={13} aria-hidden />
          Another
        </Button>
        {mask.quantity === 'picture' ? (
          <Select label="Channel" value={look.channel ?? 'grey'} options={CHANNELS.map((c) => c.name)} onChange={(name) => onChange({ ...look, channel: CHANNELS.find((c) => c.name === name)!.id })} />
        ) : (
          <ColourField label="Colour" value={look.colour ?? [0, 0, 0]} disabled={layer.locked} onChange={(colour, gesture) => onChange({ ...look, colour }, gesture)} />
        )}
      </div>
      {mask.quantity === 'colour' && flat.length > 0 && (
        <div className="flex flex-wrap items-center gap-1 text-xs text-soft">
          In the picture
          {flat.map((c) => (
            <button
              key={c.join()} type="button" aria-label={`Pick the colour ${c.map((v) => Math.round(v * 255)).join(', ')}`} disabled={layer.locked}
              className={`size-5 rounded border ${c.every((v, i) => Math.abs(v - (look.colour?.[i] ?? 0)) < 0.004) ? 'border-ink ring-2 ring-thrift' : 'border-rule'}`}
              style={{ background: `rgb(${c.map((v) => Math.round(v * 255)).join(' ')})` }} onClick={() => onChange({ ...look, colour: c })}
            />
          ))}
        </div>
      )}
      <div className="flex">
        <Choice
          label="How the picture is laid" value={look.laid ?? 'plan'} disabled={layer.locked} onChange={(laid) => onChange({ ...look, laid })}
          options={[
            { value: 'plan', name: 'On the plan', hint: 'Seen from above, where its middle and its size put it.' },
            { value: 'uv', name: 'By UV', hint: 'By the picture coordinates of each ground: those of its file, longitude and latitude on a small planet, edge to edge on a terrain. A ground without any lets all through.' },
          ]}
        />
      </div>
      <div className="grid grid-cols-3 gap-x-2 gap-y-1">
        {onPlan && (
          <>
            {metres('Middle, east', 'x_m', -100_000)}
            {metres('Middle, south', 'z_m', -100_000)}
            <NumberField label="Turn" unit="°" value={own?.turn_deg ?? 0} min={-360} max={360} step={1} digits={0} disabled={layer.locked || !own} onChange={(turn_deg, gesture) => place({ turn_deg }, gesture)} />
            {metres('Width', 'width_m', 0.01)}
            {metres('Depth', 'depth_m', 0.01)}
          </>
        )}
        <label className="flex items-end gap-2 pb-1.5 text-xs text-soft">
          <Switch label="Repeats" on={own?.repeats ?? false} disabled={layer.locked || !own} onChange={(repeats) => place({ repeats })} />
          Repeats
        </label>
      </div>
      {others.length > 0 && <p className="text-xs text-soft">{others.map((l) => l.name).join(', ')} {others.length === 1 ? 'looks' : 'look'} at this picture too: moving it moves it for all.</p>}
    </div>
  )
}
