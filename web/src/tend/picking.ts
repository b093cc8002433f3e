export interface Point {
  x: number
  y: number
}
export interface Point3 extends Point {
  z: number
}

/** As much of the plants of a layer as picking needs. */
export interface Pickable {
  count: number
  positions: Float32Array
  sizes: Float32Array
}

export type Project = (p: Point3) => Point | null

/** How near to a plant the pointer must be, pixels. */
const REACH_PX = 16

/** Of stems about as near to the pointer the one nearest to the eye is meant, pixels. */
const ALIKE_PX = 5

/** The plant whose stem is nearest to the pointer on screen; null when none is within reach. Plants whose base is out of sight are passed over. */
export function plantAt(plants: Pickable, heightM: number, project: Project, eye: Point3, at: Point, view: { width: number; height: number }): number | null {
  let best: number | null = null
  let bestScore = Infinity
  for (let i = 0; i < plants.count; i++) {
    const [x, y, z] = [plants.positions[i * 3], plants.positions[i * 3 + 1], plants.positions[i * 3 + 2]]
    const base = project({ x, y, z })
    if (!base || base.x < 0 || base.y < 0 || base.x > view.width || base.y > view.height || Math.abs(base.x - at.x) > 400) continue
    const top = project({ x, y: y + heightM * plants.sizes[i], z }) ?? base
    const px = toSegment(at, base, top)
    if (px > REACH_PX) continue
    // Depth decides among stems that are alike: it adds less than one step of nearness.
    const score = Math.floor(px / ALIKE_PX) + 1 - 1 / (1 + Math.hypot(x - eye.x, y - eye.y, z - eye.z))
    if (score < bestScore) [best, bestScore] = [i, score]
  }
  return best
}

/** The plants whose base lies within a line drawn around them on screen. */
export function plantsWithin(plants: Pickable, project: Project, line: Point[]): number[] {
  const found: number[] = []
  const xs = line.map((p) => p.x)
  const ys = line.map((p) => p.y)
  const [left, right, top, bottom] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)]
  for (let i = 0; i < plants.count; i++) {
    const p = project({ x: plants.positions[i * 3], y: plants.positions[i * 3 + 1], z: plants.positions[i * 3 + 2] })
    if (p && p.x >= left && p.x <= right && p.y >= top && p.y <= bottom && holds(line, p)) found.push(i)
  }
  return found
}

/** What a drag goes around: the line itself, or the box that one straight across spans. */
export function ringOf(line: Point[]): Point[] {
  const [a, b] = [line[0], line[line.length - 1]]
  const box = Math.abs((b.x - a.x) * (b.y - a.y))
  let area = 0
  for (let i = 0, j = line.length - 1; i < line.length; j = i++) area += (line[j].x * line[i].y - line[i].x * line[j].y) / 2
  return Math.abs(area) < box * 0.12 ? [a, { x: b.x, y: a.y }, b, { x: a.x, y: b.y }] : line
}

/** Whether a closed line goes around a point: even-odd. */
export function holds(line: Point[], p: Point): boolean {
  let inside = false
  for (let i = 0, j = line.length - 1; i < line.length; j = i++) {
    const [a, b] = [line[i], line[j]]
    if (a.y > p.y !== b.y > p.y && p.x < a.x + ((p.y - a.y) / (b.y - a.y)) * (b.x - a.x)) inside = !inside
  }
  return inside
}

function toSegment(p: Point, a: Point, b: Point): number {
  const [dx, dy] = [b.x - a.x, b.y - a.y]
  const t = Math.min(1, Math.max(0, ((p.x - a.x) * dx + (p.y - a.y) * dy) / Math.max(1e-9, dx * dx + dy * dy)))
  return Math.hypot(p.x - a.x - dx * t, p.y - a.y - dy * t)
}
