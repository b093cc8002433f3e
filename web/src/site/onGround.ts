import type { Obstacle, Outline, Schemas } from '../api/client'

export type OutlineKind = Schemas['OutlineKind']
export type Shape = Schemas['Shape']
export type ShapeKind = Shape['kind']

export const KINDS: Record<OutlineKind, { name: string; hint: string; fewest: number }> = {
  bed: { name: 'Bed', hint: 'A closed line that plants grow inside.', fewest: 3 },
  clearing: { name: 'Clearing', hint: 'A closed line that plants keep out of.', fewest: 3 },
  track: { name: 'Track', hint: 'An open line with a width: a path, a burn.', fewest: 2 },
}

/** Shapes that can be set up without a file. */
export type ReadyKind = Exclude<ShapeKind, 'mesh'>

export const SHAPES: Record<ReadyKind, { name: string; make(line: number[][]): Shape }> = {
  cottage: { name: 'Cottage', make: () => ({ kind: 'cottage', width_m: 9, depth_m: 5, eaves_m: 2.4, roof_deg: 42 }) },
  wall: { name: 'Dry-stone wall', make: (points) => ({ kind: 'wall', points, height_m: 1.2, thickness_m: 0.6 }) },
  steps: { name: 'Steps', make: () => ({ kind: 'steps', width_m: 1.4, count: 8, rise_m: 0.17, tread_m: 0.34 }) },
  boulder: { name: 'Boulder', make: () => ({ kind: 'boulder', size_m: 2.4, form: 0 }) },
  box: { name: 'Box', make: () => ({ kind: 'box', width_m: 2, depth_m: 2, height_m: 2 }) },
  cylinder: { name: 'Cylinder', make: () => ({ kind: 'cylinder', radius_m: 1, height_m: 2 }) },
}

export const numbered = (name: string, taken: { name: string }[]) => {
  if (!taken.some((t) => t.name === name)) return name
  for (let i = 2; ; i++) if (!taken.some((t) => t.name === `${name} ${i}`)) return `${name} ${i}`
}
const round = (p: number[]) => p.map((v) => Number(v.toFixed(2)))

export function newOutline(kind: OutlineKind, nodes: number[][], id: number, others: Outline[]): Outline {
  return { id, kind, name: numbered(KINDS[kind].name, others), nodes: nodes.map(round), smooth: true, soft_m: 1, width_m: kind === 'track' ? 1.2 : 1 }
}

export const shapeName = (kind: ShapeKind) => (kind === 'mesh' ? 'Mesh' : SHAPES[kind].name)

/** An obstacle at a point; a wall's line is kept from its first point on. A mesh brings its shape and its name. */
export function newObstacle(
  kind: ShapeKind, line: number[][], id: number, others: Obstacle[], given?: { shape?: Shape; name?: string },
): Obstacle {
  const [x_m, z_m] = round(line[0])
  const shape = given?.shape ?? SHAPES[kind as ReadyKind].make(line.map(([x, z]) => round([x - x_m, z - z_m])))
  return { id, name: numbered(given?.name ?? shapeName(kind), others), shape, x_m, z_m, lift_m: 0, on_ground: true, turn_deg: 0, scale: 1, hidden: false }
}

/** The nodes with one more in the middle of the piece after `at`. */
export function insertNode(outline: Outline, at: number): Outline {
  const next = outline.nodes[(at + 1) % outline.nodes.length]
  const middle = round([(outline.nodes[at][0] + next[0]) / 2, (outline.nodes[at][1] + next[1]) / 2])
  return { ...outline, nodes: [...outline.nodes.slice(0, at + 1), middle, ...outline.nodes.slice(at + 1)] }
}

/** The nodes without one; null when too few would be left. */
export function removeNode(outline: Outline, at: number): Outline | null {
  if (outline.nodes.length <= KINDS[outline.kind].fewest) return null
  return { ...outline, nodes: outline.nodes.filter((_, i) => i !== at) }
}

export function moveNode(outline: Outline, at: number, to: { x: number; z: number }): Outline {
  return { ...outline, nodes: outline.nodes.map((n, i) => (i === at ? round([to.x, to.z]) : n)) }
}
