import { ImagePlus } from 'lucide-react'
import { useRef } from 'react'
import { useScene } from '../state/scene'
import { Button } from '../ui/Button'
import { Hint } from '../ui/Hint'
import { NumberField } from '../ui/NumberField'
import { TELLS, toldBy, wear, type EarthPictures, type Tells } from './earthPictures'
import { EARTHS, type Earth } from './earths'

const HINT =
  'Choose a picture of its colour and, if you have them, of its height and its roughness: together they are told apart by their names (…height…, …rough…). ' +
  'The earth shows in them wherever it lies, in the view and in stills, without a seam; stones wear those of rock. Plants do not change.'

/** Pictures that earths of this scene wear instead of what they are drawn with. */
export function EarthPicturesFields({ shown }: { shown: Earth[] }) {
  const sets = useScene((s) => s.scene!.document.earth_pictures) ?? []
  return (
    <div className="flex flex-col gap-2" data-testid="earth-pictures">
      <Hint text={HINT}>
        <p className="text-xs text-soft">Pictures of your own</p>
      </Hint>
      {EARTHS.filter(({ value }) => shown.includes(value) || sets.some((s) => s.id === value)).map(({ value, name }) => {
        const set = sets.find((s) => s.id === value)
        return set ? <Worn key={value} set={set} name={name} /> : <Bare key={value} earth={value} name={name} />
      })}
    </div>
  )
}

function Bare({ earth, name }: { earth: Earth; name: string }) {
  const files = useRef<HTMLInputElement>(null)
  const chosen = (all: File[]) => {
    const told = toldBy(all.map((f) => f.name))
    void wear(earth, all.flatMap((file, i) => (told[i] ? [{ file, tells: told[i] }] : [])))
  }
  return (
    <div className="flex h-7 items-center justify-between gap-2 text-[13px]">
      <span>{name}</span>
      <input ref={files} type="file" multiple accept="image/png,image/jpeg" className="hidden" data-testid={`bring-${earth}`} onChange={(e) => chosen([...(e.currentTarget.files ?? [])])} />
      <Button onClick={() => files.current!.click()}>
        <ImagePlus size={13} aria-hidden />
        Bring pictures
      </Button>
    </div>
  )
}

function Worn({ set, name }: { set: EarthPictures; name: string }) {
  const { run } = useScene.getState()
  const change = (part: Partial<EarthPictures>, gesture?: string) => run({ do: 'put_earth_pictures', value: { ...set, ...part } }, gesture, gesture && `earth pictures ${set.id}`)
  return (
    <div className="flex flex-col gap-1.5 rounded-md border border-rule p-2" data-testid={`worn-${set.id}`}>
      <div className="flex items-center justify-between gap-2 text-[13px]">
        <span className="min-w-0 truncate">
          {name} in {set.name}
        </span>
        <Button onClick={() => run({ do: 'remove_earth_pictures', id: set.id })} aria-label={`Take the pictures off ${name.toLowerCase()}`}>
          Take off
        </Button>
      </div>
      <div className="flex gap-2">
        {TELLS.map((tells) => (
          <Slot key={tells} set={set} tells={tells} />
        ))}
      </div>
      <div className="grid grid-cols-2 gap-1.5">
        <NumberField label="Size" testId={`size-of-${set.id}`} unit="m" value={set.size_m} min={0.05} max={100} step={0.1} digits={2} fallback={2} hint="How much ground they cover, along a side." onChange={(size_m, g) => change({ size_m }, g)} />
        <NumberField label="Relief" testId={`relief-of-${set.id}`} unit="m" value={set.relief_m} min={0} max={10} step={0.01} digits={2} fallback={0.05} disabled={!set.height}
          hint="From black to white of the height picture. Without one the earth is level." onChange={(relief_m, g) => change({ relief_m }, g)} />
      </div>
    </div>
  )
}

/** One picture of a set, to be replaced by another. */
function Slot({ set, tells }: { set: EarthPictures; tells: Tells }) {
  const file = useRef<HTMLInputElement>(null)
  const picture = set[tells]
  const label = `${picture ? 'Another' : 'A'} ${tells} picture for ${set.id}`
  return (
    <>
      <input ref={file} type="file" accept="image/png,image/jpeg" className="hidden" data-testid={`${tells}-of-${set.id}`}
        onChange={(e) => e.currentTarget.files?.[0] && void wear(set.id, [{ file: e.currentTarget.files[0], tells }])} />
      <button type="button" aria-label={label} title={picture ? `${tells}: ${picture.file}` : label} onClick={() => file.current!.click()} className="flex shrink-0 flex-col items-center gap-0.5 text-xs text-soft hover:text-ink">
        {picture ? (
          <img src={`/api/blobs/${picture.blob}`} alt="" className="size-9 rounded border border-rule object-cover" />
        ) : (
          <span className="flex size-9 items-center justify-center rounded border border-dashed border-rule">
            <ImagePlus size={14} aria-hidden />
          </span>
        )}
        {tells}
      </button>
    </>
  )
}
