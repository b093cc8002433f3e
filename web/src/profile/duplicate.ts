import type { Command, Layer } from '../api/client'
import { freshId } from '../state/scene'

/** Copies a layer, with an arrangement of its own: in the same places the copy would find all room taken. */
export function duplicateOf(layer: Layer, layers: Layer[]): Command & { do: 'duplicate_layer' } {
  return { do: 'duplicate_layer', id: layer.id, copy: freshId(layers), seed: Math.floor(Math.random() * 2 ** 31) }
}
