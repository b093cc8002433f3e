import type { Schemas } from '../api/client'
import { sendPicture } from '../state/pictures'
import { useScene } from '../state/scene'
import type { Earth } from './earths'

export type EarthPictures = Schemas['EarthPictures']
/** What a picture of a set tells of its earth. */
export type Tells = 'colour' | 'height' | 'roughness'
type Told = Partial<Record<Tells, Schemas['PictureFile']>>

export const TELLS: Tells[] = ['colour', 'height', 'roughness']
const NAMED: Partial<Record<Tells, RegExp>> = { height: /height|displace|disp\b|bump|relief/i, roughness: /rough/i }

/** What pictures that were chosen together tell, by their names; the first that says nothing of itself is the colour. */
export function toldBy(names: string[]): (Tells | null)[] {
  const out = names.map((name): Tells | null => TELLS.find((t) => NAMED[t]?.test(name)) ?? null)
  // One alone is the colour, whatever it is called.
  const first = names.length === 1 ? 0 : out.indexOf(null)
  return out.map((told, i) => (i === first ? 'colour' : out.indexOf(told) === i ? told : null))
}

/** A name for a set from that of its colour picture. */
const nameOf = (file: string) => file.replace(/\.[^.]*$/, '').replace(/[_-]?(colou?r|albedo|diffuse|base)$/i, '').replace(/[_-]+/g, ' ').trim().slice(0, 80) || 'Pictures'

/** Lets an earth wear pictures: those that were chosen, with what it has on of the others. */
export async function wear(earth: Earth, chosen: { file: File; tells: Tells }[]) {
  const { say } = useScene.getState()
  const told: Told = {}
  for (const { file, tells } of chosen) {
    try {
      told[tells] = { blob: (await sendPicture(file)).blob, file: file.name.slice(0, 80) }
    } catch (e) {
      say((e as Error).message)
      return
    }
  }
  const { scene, run } = useScene.getState()
  const on = scene?.document.earth_pictures?.find((p) => p.id === earth)
  const colour = told.colour ?? on?.colour
  if (!colour) {
    say('An earth needs a picture of its colour first: choose one whose name does not say height or roughness.')
    return
  }
  run({
    do: 'put_earth_pictures',
    value: {
      ...(on ?? { id: earth, name: nameOf(colour.file), size_m: 2, relief_m: 0.05 }), colour,
      ...(told.height && { height: told.height }), ...(told.roughness && { roughness: told.roughness }),
    },
  })
}
