import type { Layer, Schemas, Species } from '../api/client'
import type { Note } from '../drawer/useNotes'
import { useScene } from '../state/scene'
import { showNumber } from '../ui/parse'

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
