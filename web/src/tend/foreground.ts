import type { Layer, Schemas } from '../api/client'
import { freshId, useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { useHand } from './hand'
import { take } from './tool'

/**
 * Makes a layer of the same plants that is planted by hand alone and shown in full, draws all other layers lightly in the view, and
 * takes the strewing tool in hand. Stills and handoff have everything in full anyway.
 */
export function startForeground(layer: Layer) {
  const { scene, run } = useScene.getState()
  if (!scene) return
  const { layers } = scene.document
  const id = freshId(layers)
  const { on_plants: _, ...rest } = layer
  const fresh: Layer = {
    ...rest, id, name: `${layer.name}, foreground`.slice(0, 80), locked: false, visible: true, amount: { unit: 'total', value: 0 }, masks: [], tended: [], drifts: [], show_as: 'full',
  }
  const lightly = layers.filter((l) => !l.locked && (l.show_as ?? 'auto') === 'auto')
  run({
    do: 'all',
    commands: [
      { do: 'add_layer', layer: fresh, place: layers.indexOf(layer) },
      ...lightly.map((l): Schemas['Command'] => ({ do: 'edit_layer', id: l.id, edit: { set: 'show_as', value: 'light' } })),
    ],
  })
  useUi.getState().set({ layer: id })
  take(id)
  useHand.getState().set({ way: 'strew' })
}
