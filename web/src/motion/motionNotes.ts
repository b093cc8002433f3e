import type { Layer, Schemas, Species } from '../api/client'
import type { Note } from '../drawer/useNotes'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { showNumber } from '../ui/parse'

type MoverNote = Exclude<Schemas['MotionNote'], { what: 'reaches_nothing' | 'pressed_flat' | 'in_step' | 'too_few_pieces' }>

/** What should be known of a blower or a body. */
function moverNote(n: MoverNote, layers: Layer[]): Note[] {
  const { scene, run } = useScene.getState()
  const { blowers = [], bodies = [] } = scene?.document ?? {}
  const look = (what: 'blower' | 'body', id: number) => ({ name: 'Show it', run: () => useUi.setState({ chosen: { what, id } }) })
  if (n.what === 'blows_at_nothing') {
    const blower = blowers.find((b) => b.id === n.blower)
    return blower ? [{ text: `${blower.name} reaches nothing that sways: bring it nearer, or let it reach further.`, fix: look('blower', blower.id) }] : []
  }
  const body = bodies.find((b) => b.id === n.body)
  if (!body) return []
  switch (n.what) {
    case 'passes_through': {
      const names = layers.filter((l) => n.layers.includes(l.id)).map((l) => l.name)
      const fix = { name: 'Let plants feel it', run: () => run({ do: 'change', what: { of: 'body', id: body.id }, fields: { felt: true } }) }
      return [{ text: `${body.name} passes through ${names.join(', ')} as if nothing grew there.`, fix }]
    }
    case 'leaves':
      return [{ text: `${body.name} comes off the ground at ${showNumber(n.at_s, 1)} s.`, fix: look('body', body.id) }]
    case 'begins_inside':
      return [{ text: `${body.name} begins inside something that stands there, and may be thrown out of it.`, fix: look('body', body.id) }]
  }
}

/** What should be known of how the scene moves. */
export function motionNotes(notes: Schemas['MotionNote'][], layers: Layer[], species: Species[]): Note[] {
  const { editLayer } = useScene.getState()
  return notes.flatMap((n): Note[] => {
    if (n.what === 'reaches_nothing') {
      const take = () => n.held.forEach((id) => editLayer(id, { set: 'wind_share', value: 1 }, 'take the wind'))
      return [{
        text: 'The wind moves nothing: what is shown stands stiff or is held out of it.',
        fix: n.held.length > 0 ? { name: 'Let it take the wind', run: take } : undefined,
      }]
    }
    if (n.what === 'in_step') {
      const gusts = () => useScene.getState().run({ do: 'edit_motion', edit: { set: 'strength', value: 0.25 } })
      return [{ text: 'The wind blows without gusts: plants lean and none of them sways.', fix: { name: 'Gusts of 25 %', run: gusts } }]
    }
    if (n.what === 'too_few_pieces') {
      const layer = layers.find((l) => l.id === n.layer)
      const name = species.find((s) => s.id === n.species)?.name ?? 'A species'
      return layer ? [{ layer: layer.id, text: `${layer.name}: ${name} is built of ${n.pieces} pieces along its length and bends in corners; four or more bend smoothly.` }] : []
    }
    if (n.what !== 'pressed_flat') return moverNote(n, layers)
    const layer = layers.find((l) => l.id === n.layer)
    if (!layer) return []
    const name = species.find((s) => s.id === n.species)?.name.toLowerCase() ?? 'plants'
    const share = Math.floor(n.share * 100) / 100
    return [{
      layer: layer.id,
      text: `${layer.name}: the mean wind presses ${name} flat (${showNumber(n.lean_deg, 0)}° of ${showNumber(n.most_deg, 0)}°), so that gusts hardly move it.`,
      fix: { name: `Take ${showNumber(share * 100, 0)} % of the wind`, run: () => editLayer(layer.id, { set: 'wind_share', value: share }) },
    }]
  })
}
