import type { PlacedGround, Schemas } from '../api/client'

export type SculptTool = Schemas['SculptTool']
export type Stroke = Schemas['Stroke']

type Place = Pick<PlacedGround, 'x_m' | 'z_m' | 'turn_deg' | 'scale'>

export interface Sculpting {
  tool: SculptTool
  radius_m: number
  /** Metres for raising and lowering. */
  height_m: number
  /** Share for smoothing and flattening, 0 to 1. */
  share: number
  falloff: number
}

export const TOOLS: { id: SculptTool; name: string; hint: string }[] = [
  { id: 'raise', name: 'Raise', hint: 'Lifts the ground along the stroke.' },
  { id: 'lower', name: 'Lower', hint: 'Lowers the ground along the stroke.' },
  { id: 'smooth', name: 'Smooth', hint: 'Draws the ground towards the mean around it.' },
  { id: 'flatten', name: 'Flatten', hint: 'Brings the ground to the height where the stroke begins.' },
]

export const DEFAULT_SCULPTING: Sculpting = { tool: 'raise', radius_m: 8, height_m: 1.5, share: 0.8, falloff: 0.7 }

const lifts = (tool: SculptTool) => tool === 'raise' || tool === 'lower'

/** A point of the scene in a ground's own metres, before it is scaled; the land lies as the scene does. */
export function onGround(place: Place | undefined, { x, z }: { x: number; z: number }): [number, number] {
  if (!place) return [x, z]
  // Turns are clockwise from north, seen from above.
  const turn = (place.turn_deg * Math.PI) / 180
  const [east, south] = [x - place.x_m, z - place.z_m]
  const own = [east * Math.cos(turn) + south * Math.sin(turn), south * Math.cos(turn) - east * Math.sin(turn)]
  return [own[0] / place.scale, own[1] / place.scale]
}

/** A stroke that starts at a point of a ground, in its own metres; the tool's are those of the scene. */
export function beginStroke(s: Sculpting, id: number, point: [number, number], scale = 1): Stroke {
  const strength = lifts(s.tool) ? s.height_m / scale : s.share
  return { id, tool: s.tool, radius_m: s.radius_m / scale, strength, falloff: s.falloff, points: [point] }
}

/** Points of a stroke lie no nearer than this share of its radius. */
const APART = 0.15
const MOST_POINTS = 2000

/** The stroke led on to a point; null when it is too near the last to matter. */
export function leadOn(stroke: Stroke, [x, z]: [number, number]): Stroke | null {
  const last = stroke.points.at(-1)!
  if (Math.hypot(x - last[0], z - last[1]) < stroke.radius_m * APART || stroke.points.length >= MOST_POINTS) return null
  return { ...stroke, points: [...stroke.points, [Number(x.toFixed(2)), Number(z.toFixed(2))]] }
}

/** The strokes of all grounds. */
export function allStrokes(land: Stroke[] | undefined, grounds: PlacedGround[] | undefined): { ground: number; id: number }[] {
  const named = (ground: number, strokes: Stroke[] | undefined) => (strokes ?? []).map(({ id }) => ({ ground, id }))
  return [...named(0, land), ...(grounds ?? []).flatMap((g) => named(g.id, g.strokes))]
}
