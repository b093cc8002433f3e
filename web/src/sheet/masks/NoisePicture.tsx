import { useCallback, useEffect, useMemo, useRef } from 'react'
import type { Layer, Mask } from '../../api/client'
import { useGround } from '../../state/data'
import { showNumber } from '../../ui/parse'
import { rampAt } from '../../view/ramps'
import { responseAt } from '../../view/stage/grid'
import { windowOf, type Window } from './noisePicture'
import { useMaskQuantity } from './useMaskQuantity'

/** The noise of a mask on the middle of the land, and what its curve lets through of it. */
export function NoisePicture({ layer, mask }: { layer: Layer; mask: Mask }) {
  const { data: land } = useGround()
  const values = useMaskQuantity(layer, mask).get(0)?.values
  const form_m = mask.noise!.size_m
  const seen = useMemo(() => (land && values?.length === land.nx * land.nz ? windowOf(land, values, form_m) : null), [land, values, form_m])
  const { response } = mask
  const through = useCallback((v: number) => responseAt(response, v), [response])
  // On meshes a noise runs through space and has no picture on the plan.
  if (!seen) return null
  return (
    <div className="mt-2 grid grid-cols-2 gap-2" data-testid="noise-picture">
      <Picture seen={seen} name={`The noise, ${showNumber(seen.across_m, seen.across_m < 10 ? 1 : 0)} m across`} at={plain} />
      <Picture seen={seen} name="Through the curve" at={through} />
    </div>
  )
}

const plain = (v: number) => v

function Picture({ seen, name, at }: { seen: Window; name: string; at(value: number): number }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  useEffect(() => {
    const pen = canvas.current!.getContext('2d')!
    const image = pen.createImageData(seen.columns, seen.rows)
    const ramp = Array.from({ length: 256 }, (_, i) => rampAt('rising', i / 255))
    seen.values.forEach((v, i) => {
      image.data.set(ramp[Math.round(Math.min(1, Math.max(0, at(v))) * 255)], i * 4)
      image.data[i * 4 + 3] = 255
    })
    pen.putImageData(image, 0, 0)
  }, [seen, at])
  return (
    <figure>
      <canvas ref={canvas} width={seen.columns} height={seen.rows} className="aspect-[2/1] w-full rounded" aria-label={name} role="img" />
      <figcaption className="mt-0.5 text-xs text-soft">{name}</figcaption>
    </figure>
  )
}
