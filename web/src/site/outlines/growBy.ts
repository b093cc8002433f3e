import type { Command, Document, Layer, Mask, Outline, Zone } from '../../api/client'
import { freshId } from '../../state/scene'

/** What an outline may mean to a layer. */
export type Use = 'inside' | 'out' | 'along'

/** Within this far of a line, fading over as much again, metres. */
const ALONG_M = 1

/** The zone that is this outline and nothing else, where there is one. */
const zoneOf = (document: Document, outline: Outline): Zone | undefined =>
  (document.zones ?? []).find((z) => z.outlines?.length === 1 && z.outlines[0] === outline.id && !z.groups?.length)

/** Makes an outline a mask of layers, in one step. What they were told of it before is told anew. */
export function growBy(document: Document, outline: Outline, use: Use, layers: Layer[]): Command {
  const known = zoneOf(document, outline)
  const zone: Zone = known ?? { id: freshId(document.zones ?? []), name: outline.name, outlines: [outline.id] }
  const commands: Command[] = use === 'along' || known ? [] : [{ do: 'put_zone', value: zone }]
  for (const layer of layers) {
    const kept = layer.masks.filter((m) => m.zone !== zone.id && !isNear(m, outline.id))
    const id = freshId(layer.masks)
    const mask: Mask =
      use === 'along'
        ? { id, quantity: 'distance', enabled: true, near: { what: 'outline', id: outline.id }, response: { start: 0, full_from: 0, full_to: ALONG_M, end: ALONG_M * 2, inverted: false } }
        : { id, quantity: 'zone', enabled: true, zone: zone.id, response: { start: 0, full_from: 1, full_to: 1, end: 1, inverted: use === 'out' } }
    commands.push({ do: 'edit_layer', id: layer.id, edit: { set: 'masks', value: [...kept, mask] } })
  }
  return commands.length === 1 ? commands[0] : { do: 'all', commands }
}

/** What an outline means to a layer now. */
export function useOf(document: Document, outline: Outline, layer: Layer): Use | null {
  if (layer.masks.some((m) => isNear(m, outline.id))) return 'along'
  const zone = zoneOf(document, outline)
  const mask = zone && layer.masks.find((m) => m.zone === zone.id)
  return mask ? (mask.response.inverted ? 'out' : 'inside') : null
}

const isNear = ({ near }: Mask, id: number) => near?.what === 'outline' && near.id === id
