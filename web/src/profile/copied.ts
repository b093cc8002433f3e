import type { Command, Document, Layer, Schemas } from '../api/client'
import { freshId } from '../state/scene'

type SpeciesSpec = NonNullable<Document['species']>[number]

/** Layers as they travel on the clipboard, as text. */
export interface Copied {
  rookery: 'layers'
  layers: Layer[]
  /** Species of the scene's own that they grow. */
  species: SpeciesSpec[]
}

/** The layers of a scene with the species of its own that they need. */
export function copied(document: Document, ids: number[]): Copied {
  const layers = document.layers.filter((l) => ids.includes(l.id))
  const needed = new Set(layers.flatMap((l) => l.mix.map((m) => m.species)))
  return { rookery: 'layers', layers, species: (document.species ?? []).filter((s) => needed.has(s.id)) }
}

/** Layers from a clipboard; null where it holds something else. */
export function fromText(text: string): Copied | null {
  try {
    const found = JSON.parse(text) as Partial<Copied>
    if (found?.rookery !== 'layers' || !Array.isArray(found.layers) || !Array.isArray(found.species)) return null
    return found.layers.length > 0 && found.layers.every((l) => typeof l?.id === 'number' && typeof l?.name === 'string' && Array.isArray(l?.mix)) ? (found as Copied) : null
  } catch {
    return null
  }
}

/**
 * Brings copied layers into a scene as one step. They get numbers and names of their own and keep their arrangement; what they refer to by
 * number in the scene they came from (grounds, outlines, other layers, shots, pictures) means nothing here and is left out; `left` is how
 * many masks that were.
 */
export function pasted(document: Document, { layers, species }: Copied): { command: Command; ids: number[]; left: number } {
  const known = [...document.layers]
  const taken = (name: string) => known.some((l) => l.name === name)
  const added = layers.map((layer) => {
    const id = freshId(known)
    let name = layer.name
    for (let n = 2; taken(name); n++) name = `${layer.name} ${n}`
    const own = { ...layer, id, name, locked: false, grounds: [], on_plants: null, masks: layer.masks.filter(standsAlone), ...(layer.rows && { rows: { ...layer.rows, line: null } }) } as Layer
    known.push(own)
    return own
  })
  const missing = species.filter((s) => !(document.species ?? []).some((k) => k.id === s.id))
  const commands: Command[] = [
    ...missing.map((value): Command => ({ do: 'put_species', value })),
    // The first of them comes to lie on top.
    ...added.toReversed().map((layer): Command => ({ do: 'add_layer', layer, place: 0 })),
  ]
  const masks = (all: Layer[]) => all.reduce((sum, l) => sum + l.masks.length, 0)
  return { command: commands.length === 1 ? commands[0] : { do: 'all', commands }, ids: added.map((l) => l.id), left: masks(layers) - masks(added) }
}

/** Whether a mask means the same in any scene. */
function standsAlone(mask: Schemas['Mask']): boolean {
  return !mask.zone && !mask.picture && mask.shot == null && !mask.paint && !mask.near
}
