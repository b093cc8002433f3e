import type { Document, Layer, Species } from '../api/client'
import { freshId } from '../state/scene'

/** A layer that starts low: sensible for its kind, quiet enough to look at and then raise. */
export function newLayer(document: Document, species: Species): Layer {
  const rock = species.kind === 'rock'
  const name = freeName(document, species.plural)
  const id = freshId(document.layers)
  return {
    id,
    name,
    species: species.id,
    visible: true,
    locked: false,
    seed: id * 101,
    pattern: rock ? 'random' : 'even',
    amount: { unit: 'per_m2', value: rock ? 0.01 : 0.5 },
    cap: 1_000_000,
    masks: [
      {
        id: 1,
        quantity: 'slope',
        enabled: true,
        response: { start: 0, full_from: 0, full_to: rock ? 40 : 28, end: rock ? 55 : 38, inverted: false },
      },
    ],
    stance: {
      size: rock ? { min: 0.5, max: 1.5 } : { min: 0.8, max: 1.25 },
      turn_deg: { min: 0, max: 360 },
      tilt_deg: rock ? 30 : 6,
      upright: rock ? 0.5 : 0.2,
      sink_m: rock ? 0.15 : 0.02,
    },
  }
}

function freeName(document: Document, stem: string): string {
  const taken = (name: string) => document.layers.some((l) => l.name === name)
  if (!taken(stem)) return stem
  for (let n = 2; ; n++) if (!taken(`${stem} ${n}`)) return `${stem} ${n}`
}
