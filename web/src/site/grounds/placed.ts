import type { PlacedGround, Schemas } from '../../api/client'
import { freshId } from '../../state/scene'
import { DEFAULT_NOISE } from '../noise'

export type PlacedSource = Schemas['PlacedSource']
export type ReadyGround = 'arch' | 'planet' | 'noise'

interface Field {
  key: string
  label: string
  unit: string
  min: number
  max: number
  step: number
  digits?: number
  percent?: boolean
  hint?: string
}

const size = (key: string, label: string, min: number, max: number): Field => ({ key, label, unit: 'm', min, max, step: 0.5, digits: 1 })
const share = (key: string, label: string, max: number, hint?: string): Field => ({ key, label, unit: '%', min: 0, max, step: 1, digits: 0, percent: true, hint })
const seed: Field = { key: 'seed', label: 'Seed', unit: '', min: 0, max: 4294967295, step: 1, digits: 0, hint: 'Another number, another surface.' }

/** Grounds that can be made without a file, with their settings. */
export const READY: Record<ReadyGround, { name: string; source: PlacedSource; fields: Field[] }> = {
  arch: {
    name: 'Sea arch',
    source: { kind: 'arch', length_m: 46, height_m: 24, thickness_m: 11, opening: 0.42, ruggedness: 0.55, seed: 7, detail_m: 0.45 },
    fields: [
      size('length_m', 'Length', 4, 400), size('height_m', 'Height', 3, 200), size('thickness_m', 'Thickness', 1, 200),
      share('opening', 'Opening', 80, 'Share of the length that the hole spans.'), share('ruggedness', 'Ruggedness', 100),
      { key: 'detail_m', label: 'Faces of', unit: 'm', min: 0.1, max: 10, step: 0.05, digits: 2, hint: 'Length of its faces. Plants do not depend on it but for the triangles they stand on.' },
      seed,
    ],
  },
  planet: {
    name: 'Small planet',
    source: { kind: 'planet', radius_m: 12, relief: 0.16, seed: 3, faces: 80 },
    fields: [
      size('radius_m', 'Radius', 0.5, 500), share('relief', 'Relief', 60, 'From the lowest to the highest land, as a share of the radius.'),
      { key: 'faces', label: 'Faces from pole to equator', unit: '', min: 8, max: 256, step: 8, digits: 0 },
      seed,
    ],
  },
  noise: {
    name: 'Terrain',
    source: { kind: 'noise', ...DEFAULT_NOISE, size_m: 60, relief_m: 8, feature_m: 40, coast: 0, samples: 129 },
    fields: [
      size('size_m', 'Size', 10, 4000), size('relief_m', 'Relief', 0, 1000), size('feature_m', 'Width of hills', 1, 4000),
      share('ruggedness', 'Ruggedness', 100), share('ridges', 'Ridges', 100), share('valleys', 'Valleys', 100), seed,
    ],
  },
}

export const sourceName = (s: PlacedSource) => (s.kind === 'mesh' ? 'Mesh' : s.kind === 'heightmap' ? 'Terrain' : s.kind === 'water' ? 'Water' : READY[s.kind].name)

export const UPRIGHTS: { value: PlacedGround['upright'] & string; name: string; hint: string }[] = [
  { value: 'gravity', name: 'Straight up', hint: 'Everything stands by the plumb line.' },
  { value: 'surface', name: 'With the surface', hint: 'Square to the surface, walls and undersides too.' },
  { value: 'centre', name: 'Out from the centre', hint: 'Away from the middle, as on a small planet; slope and altitude are read against it too.' },
]

const round = (v: number) => Number(v.toFixed(2))

/** A new ground with a number and a name of its own, at a point. */
export function newGround(source: PlacedSource, name: string, at: number[], others: PlacedGround[]): PlacedGround {
  const taken = new Set(others.map((g) => g.name))
  let own = name
  for (let i = 2; taken.has(own); i++) own = `${name} ${i}`
  const id = freshId(others)
  const [x_m, y_m, z_m] = at.map(round)
  const upright = source.kind === 'planet' ? 'centre' : 'gravity'
  const earths = { cover: 'turf', steep: 'rock', steep_deg: 46, shore: 'rock', shore_m: 1.2, wet: null, patches: 1 } as const
  return { id, name: own, source, x_m, y_m, z_m, turn_deg: 0, scale: 1, upright, earths, hidden: false }
}
