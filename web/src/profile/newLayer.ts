import type { Document, Layer, Species } from '../api/client'
import { freshId } from '../state/scene'

/** A layer that starts low: sensible for its kind, quiet enough to look at and then raise. */
export function newLayer(document: Document, species: Species): Layer {
  const rock = species.kind === 'rock' || species.kind === 'debris'
  const tree = species.kind === 'broadleaf' || species.kind === 'conifer'
  // Grass covers most of its ground, trees and stones a tenth, the rest a fifth: never a crowd to begin with.
  const share = species.kind === 'grass' ? 0.6 : tree || rock ? 0.1 : 0.2
  const cover = share / (Math.PI * species.radius_m ** 2)
  const amount = Number(Math.min(4, Math.max(0.001, cover)).toPrecision(2))
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
    amount: { unit: 'per_m2', value: amount },
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
      size: rock ? { min: 0.5, max: 1.5 } : tree ? { min: 0.75, max: 1.25 } : { min: 0.7, max: 1.3 },
      turn_deg: { min: 0, max: 360 },
      tilt_deg: rock ? 30 : tree ? 3 : 6,
      upright: rock || species.kind === 'cushion' ? 0.8 : tree ? 0 : 0.2,
      sink_m: Number(Math.min(0.1, species.height_m * 0.03).toFixed(3)),
    },
  }
}

function freeName(document: Document, stem: string): string {
  const taken = (name: string) => document.layers.some((l) => l.name === name)
  if (!taken(stem)) return stem
  for (let n = 2; ; n++) if (!taken(`${stem} ${n}`)) return `${stem} ${n}`
}
