import type { Schemas } from '../../api/client'
import { showCount } from '../../ui/parse'

type Finding = Schemas['MeshFinding']
export type Placing = Schemas['MeshPlacing']

const many = (n: number, one: string, more: string) => `${showCount(n)} ${n === 1 ? one : more}`

/** A finding in words, with what is or can be done about it. */
export function findingWords(f: Finding): { text: string; fix?: { name: string; change: Partial<Placing> } } {
  switch (f.finding) {
    case 'degenerate':
      return { text: `${many(f.count, 'face has', 'faces have')} no area; left out.` }
    case 'duplicate':
      return { text: `${many(f.count, 'face is', 'faces are')} there twice; harmless to look at, but twice as much would grow on them.`, fix: { name: 'Leave one of each', change: { mend: true } } }
    case 'flipped':
      return { text: `Faces look to opposite sides along ${many(f.edges, 'edge', 'edges')}; some may look dark.`, fix: { name: 'Turn them', change: { mend: true } } }
    case 'inside_out':
      return { text: 'The solid looks inwards; it is turned over.' }
    case 'looks_down':
      return { text: 'An open surface that looks down: nothing would stand on its upper side.', fix: { name: 'Turn it over', change: { turn_over: true } } }
    case 'open':
      return { text: `Not closed: ${many(f.edges, 'edge has', 'edges have')} a face on one side only.` }
    case 'too_large':
      return { text: 'Over two kilometres: its unit is more likely millimetres.', fix: { name: 'Millimetres', change: { unit_m: 0.001 } } }
    case 'too_small':
      return { text: 'Under two centimetres: its unit is more likely larger than a metre.', fix: { name: 'Kilometres', change: { unit_m: 1000 } } }
    case 'far_off':
      return { text: 'It lies far from its own origin.', fix: { name: 'Bring its base here', change: { recentre: true } } }
    case 'maybe_z_up':
      return { text: 'Z may be its upright.', fix: { name: 'Z is up', change: { up: 'z' } } }
  }
}

export const UNITS: { value: string; name: string; metres: number }[] = [
  { value: 'mm', name: 'mm', metres: 0.001 },
  { value: 'cm', name: 'cm', metres: 0.01 },
  { value: 'in', name: 'inch', metres: 0.0254 },
  { value: 'ft', name: 'foot', metres: 0.3048 },
  { value: 'm', name: 'm', metres: 1 },
]

/** Its size in metres, east, up and north, as it is read. */
export function sizeOf(i: Schemas['MeshInspection'], p: Placing): [number, number, number] {
  const [x, y, z] = [0, 1, 2].map((a) => (i.high[a] - i.low[a]) * p.unit_m)
  return p.up === 'y' ? [x, y, z] : [x, z, y]
}
