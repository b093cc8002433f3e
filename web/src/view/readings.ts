import type { Reading } from '../state/ui'
import { showNumber } from '../ui/parse'

/** What can be read off the ground, in the order it is offered. */
export const READINGS: Record<Reading, { name: string; hint: string; digits: number }> = {
  altitude: { name: 'Altitude', hint: 'Height above zero, metres.', digits: 1 },
  slope: { name: 'Slope', hint: 'Steepness by Horn\u2019s differences, degrees.', digits: 0 },
  aspect: { name: 'Aspect', hint: 'The way the ground faces, degrees clockwise from north.', digits: 0 },
  profile_curvature: { name: 'Profile curvature', hint: 'Bend down the slope: brows above zero, feet of slopes below.', digits: 3 },
  plan_curvature: { name: 'Plan curvature', hint: 'Bend across the slope: spurs above zero, hollows below.', digits: 3 },
  wetness: { name: 'Wetness', hint: 'Topographic wetness index: how much ground drains through here against how steeply it runs off.', digits: 1 },
  openness: { name: 'Openness', hint: 'Share of the sky seen: 1 in the open, towards 0 in clefts.', digits: 2 },
}

const COMPASS = ['N', 'NE', 'E', 'SE', 'S', 'SW', 'W', 'NW']

/** A value as it is read out, for instance `12°` or `214° SW`. */
export function showReading(reading: Reading, value: number, unit: string): string {
  if (Number.isNaN(value)) return reading === 'aspect' ? 'none, level' : 'not known'
  const text = showNumber(value, READINGS[reading].digits)
  const behind = unit === '°' ? '°' : unit && ` ${unit}`
  return reading === 'aspect' ? `${text}° ${COMPASS[Math.round(value / 45) % 8]}` : `${text}${behind}`
}
