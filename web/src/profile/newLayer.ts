import type { Document, Layer, Species } from '../api/client'
import { freshId } from '../state/scene'

/** A layer of a species as it usually stands, under a number and a name of its own. */
export function newLayer(document: Document, species: Species): Layer {
  const id = freshId(document.layers)
  return { ...species.usual, id, name: freeName(document, species.plural), seed: id * 101 }
}

function freeName(document: Document, stem: string): string {
  const taken = (name: string) => document.layers.some((l) => l.name === name)
  if (!taken(stem)) return stem
  for (let n = 2; ; n++) if (!taken(`${stem} ${n}`)) return `${stem} ${n}`
}
