import type { Document, Layer, Species } from '../api/client'
import { freshMask } from '../sheet/masks/quantities'
import { onSheet, waters } from '../state/grounds'
import type { useUi } from '../state/ui'
import { freshId } from '../state/scene'

/** What is taken hold of on the site. */
type Chosen = ReturnType<typeof useUi.getState>['chosen']

/** A layer of a species as it usually stands, under a number and a name of its own: on the ground that is taken hold of, else on all. */
export function newLayer(document: Document, species: Species, chosen: Chosen = null): Layer {
  const id = freshId(document.layers)
  const ground = chosen?.what === 'ground' ? document.grounds?.find((g) => g.id === chosen.id) : undefined
  const sheet = chosen?.what === 'water' ? onSheet(chosen.id) : undefined
  const floats = species.kind === 'floating'
  const grounds = sheet !== undefined ? [sheet] : floats ? waters(document).map((w) => w.id) : ground ? [ground.id] : species.usual.grounds
  const masks = [...species.usual.masks]
  const next = masks.reduce((most, m) => Math.max(most, m.id), 0) + 1
  // A solid has an underside; on a planet down is its middle.
  const solid = ground && (ground.source.kind === 'arch' || ground.source.kind === 'mesh') && !floats
  if (solid) masks.push(freshMask(next, 'facing', null))
  if (sheet !== undefined && !floats) masks.push(freshMask(next, 'water_depth', null))
  return { ...species.usual, grounds, masks, id, name: freeName(document, species.plural), seed: id * 101 }
}

/** A layer in which several grow in equal shares, as the first of them usually stands and with as many as its kind takes. */
export function mixedLayer(document: Document, species: Species[], chosen: Chosen = null): Layer {
  const layer = newLayer(document, species[0], chosen)
  return { ...layer, name: freeName(document, mixedName(species)), mix: species.map((s) => ({ species: s.id, share: 1 / species.length })) }
}

/** "Fescue and sedge", "Fescue and 2 others". */
function mixedName([first, ...others]: Species[]) {
  const rest = others.length === 1 ? others[0].plural.toLowerCase() : `${others.length} others`
  return others.length === 0 ? first.plural : `${first.plural} and ${rest}`
}

function freeName(document: Document, stem: string): string {
  const taken = (name: string) => document.layers.some((l) => l.name === name)
  if (!taken(stem)) return stem
  for (let n = 2; ; n++) if (!taken(`${stem} ${n}`)) return `${stem} ${n}`
}
