import type { Layer, Mask, Schemas } from '../../api/client'
import { queries } from '../../state/data'
import { sendPicture } from '../../state/pictures'
import { freshId, layerCommands, useScene } from '../../state/scene'
import { freshMask } from './quantities'

type Picture = Schemas['GroundPicture']

const maskOf = (layer: Layer, quantity: 'picture' | 'colour', picture: Picture, colours: number[][]): Mask => ({
  ...freshMask(freshId(layer.masks), quantity, null),
  picture: { id: picture.id, channel: 'grey', colour: colours[0] ?? [0, 0, 0] },
})

/** The flat colours of a picture that was looked at in this session; none of others. */
export const coloursOf = (blob: string): number[][] => queries.getQueryData(['flat colours', blob]) ?? []

/** Adds a mask that looks at a picture of the scene; false when there is none yet. */
export function addPicture(layer: Layer, quantity: 'picture' | 'colour'): boolean {
  const { scene, editLayer } = useScene.getState()
  const picture = scene?.document.pictures?.[0]
  if (!picture) return false
  editLayer(layer.id, { set: 'masks', value: [...layer.masks, maskOf(layer, quantity, picture, coloursOf(picture.blob))] })
  return true
}

/** Reads a picture, lays it over the land, and adds a mask that looks at it. */
export async function uploadPicture(layer: Layer, quantity: 'picture' | 'colour', file: File) {
  const { scene, run, say } = useScene.getState()
  try {
    const read = await sendPicture(file)
    queries.setQueryDefaults(['flat colours'], { gcTime: Infinity })
    queries.setQueryData(['flat colours', read.blob], read.colours)
    const size = groundSize()
    // As large as fits over the land without being squeezed.
    const scale = Math.min(size[0] / read.width_px, size[1] / read.height_px)
    const picture: Picture = {
      id: freshId(scene!.document.pictures ?? []), name: file.name.replace(/\.[^.]*$/, '').slice(0, 80) || 'Picture', file: file.name.slice(0, 80), blob: read.blob,
      x_m: 0, z_m: 0, width_m: Number((read.width_px * scale).toFixed(2)), depth_m: Number((read.height_px * scale).toFixed(2)), turn_deg: 0, repeats: false,
    }
    run({
      do: 'all',
      commands: [
        { do: 'put_picture', value: picture },
        ...layerCommands(layer.id, { set: 'masks', value: [...layer.masks, maskOf(layer, quantity, picture, read.colours)] }),
      ],
    })
  } catch (e) {
    say((e as Error).message)
  }
}

function groundSize(): [number, number] {
  const key = useScene.getState().scene?.ground_key
  return queries.getQueryData<{ size_m: [number, number] }>(['ground', key])?.size_m ?? [100, 100]
}
