import type { Layer, Mask, Schemas } from '../../api/client'
import { freshId, layerCommands, useScene } from '../../state/scene'
import { useUi } from '../../state/ui'

export type PaintTool = Schemas['PaintTool']
export type PaintStroke = Schemas['PaintStroke']

/** The brush in hand, and what it paints on. */
export interface Painting {
  paint: number
  tool: PaintTool
  radius_m: number
  strength: number
  falloff: number
  ragged: number
}

export const PAINT_TOOLS: { id: PaintTool; name: string; hint: string }[] = [
  { id: 'add', name: 'Add', hint: 'Plants may grow where it passes.' },
  { id: 'erase', name: 'Erase', hint: 'Nothing grows where it passed.' },
  { id: 'soften', name: 'Soften', hint: 'Blurs what is there.' },
]

export const DEFAULT_BRUSH: Omit<Painting, 'paint'> = { tool: 'add', radius_m: 6, strength: 1, falloff: 0.5, ragged: 0.3 }

/** Gives a layer a painting of its own, an empty one, and puts the brush in hand. */
export function addPainted(layer: Layer) {
  const { scene, run } = useScene.getState()
  const id = freshId(scene!.document.paints ?? [])
  const mask: Mask = {
    id: freshId(layer.masks), quantity: 'painted', paint: id, enabled: true, response: { start: 0, full_from: 1, full_to: 1, end: 1, inverted: false },
  }
  run({
    do: 'all',
    commands: [
      { do: 'put_paint', value: { id, name: `${layer.name}, painted`, bare: 0, strokes: [] } },
      ...layerCommands(layer.id, { set: 'masks', value: [...layer.masks, mask] }),
    ],
  })
  useUi.getState().set({ painting: { ...DEFAULT_BRUSH, paint: id }, probing: false })
}

/** A stroke that starts at a point; `pressure` is how firmly a pen is pressed, 0 to 1, and null for what knows none. */
export function beginPaint(p: Painting, id: number, point: [number, number, number], pressure: number | null = null): PaintStroke {
  const { tool, radius_m, strength, falloff, ragged } = p
  return { id, tool, radius_m, strength, falloff, ragged, points: [rounded(point)], ...(pressure !== null && { pressures: [hundredths(pressure)] }) }
}

const hundredths = (v: number) => Number(v.toFixed(2))
const rounded = ([x, y, z]: [number, number, number]): [number, number, number] => [hundredths(x), hundredths(y), hundredths(z)]

/** Points of a stroke lie no nearer than this share of its radius. */
const APART = 0.2
const MOST_POINTS = 2000

/** The stroke led on to a point; null when it is too near the last to matter. */
export function leadPaint(stroke: PaintStroke, point: [number, number, number], pressure: number | null = null): PaintStroke | null {
  const last = stroke.points.at(-1)!
  const away = Math.hypot(...point.map((v, i) => v - last[i]))
  if (away < stroke.radius_m * APART || stroke.points.length >= MOST_POINTS) return null
  const pressures = stroke.pressures && [...stroke.pressures, hundredths(pressure ?? stroke.pressures.at(-1)!)]
  return { ...stroke, points: [...stroke.points, rounded(point)], ...(pressures && { pressures }) }
}

/** How firmly a pen is pressed; null for a mouse or a finger. */
export function pressureOf(e: { pointerType: string; pressure: number }): number | null {
  return e.pointerType === 'pen' ? e.pressure : null
}
