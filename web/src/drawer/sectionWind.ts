import { between, flowAt, type FlowBuffer } from '../api/buffers'
import type { SectionScale } from './sectionScale'

/** Roughness of open ground, metres: as in rookery-core/src/air/wake.rs. */
const ROUGH_M = 0.03
/** From one arrow to the next, pixels. */
const [ACROSS, UP] = [34, 22]
/** As long as the arrow of the quickest is, pixels. */
const LONGEST = 26

/** The mean wind along a section. */
export interface SectionWind {
  flow: FlowBuffer
  from: [number, number]
  to: [number, number]
}

/** An arrow of the wind: where it starts on the canvas, and how far it goes to the right; below zero to the left. */
export interface WindArrow {
  x: number
  y: number
  along: number
}

/** Speed over open ground against that at 10 m. */
const overOpenGround = (height: number) => Math.log((height + ROUGH_M) / ROUGH_M) / Math.log((10 + ROUGH_M) / ROUGH_M)

/** Arrows over the ground of a section up to a line of its canvas, as long as the wind along the line is quick. What blows across the line is not in them. */
export function windArrows({ flow, from, to }: SectionWind, s: SectionScale, length: number, heights: (number | null | undefined)[], top = 10): WindArrow[] {
  const [dx, dz] = [(to[0] - from[0]) / length, (to[1] - from[1]) / length]
  const found: WindArrow[] = []
  for (let x = s.x(0) + ACROSS / 2; x < s.x(length); x += ACROSS) {
    const at = (x - s.x(0)) / s.across
    const land = heights[Math.round((at / length) * (heights.length - 1))]
    if (land == null) continue
    const [px, pz] = [from[0] + dx * at, from[1] + dz * at]
    const ground = Math.max(land, between(flow, px, pz, (c) => flow.ground[c]))
    for (let y = s.y(ground) - 7; y > top; y -= UP) {
      const height = s.low + (s.y(s.low) - y) / (s.across * s.exaggeration)
      const [u, v] = flowAt(flow, px, height, pz)
      found.push({ x, y, along: (u * dx + v * dz) * overOpenGround(Math.max(height - ground, 0.2)) })
    }
  }
  const most = Math.max(1e-6, ...found.map((a) => Math.abs(a.along)))
  return found.map((a) => ({ ...a, along: (a.along / most) * LONGEST }))
}
