import type { Histogram } from '../../api/buffers'
import type { Mask, Response, Schemas } from '../../api/client'

export type Quantity = Schemas['Quantity']

export interface QuantityInfo {
  name: string
  /** Written behind a number; empty when it has none. */
  unit: string
  /** What it may be set to. */
  low: number
  high: number
  step: number
  digits: number
  what: string
}

/** What masks can look at, in the order it is offered. */
export const QUANTITIES: Record<Quantity, QuantityInfo> = {
  slope: { name: 'Slope', unit: '°', low: 0, high: 180, step: 0.5, digits: 1, what: 'How steep the ground is' },
  altitude: { name: 'Altitude', unit: 'm', low: -12_000, high: 12_000, step: 0.25, digits: 1, what: 'How high it lies' },
  height_share: { name: 'Height share', unit: '', low: 0, high: 1, step: 0.01, digits: 2, what: 'How far up it lies between the lowest and the highest land' },
  aspect: { name: 'Aspect', unit: '°', low: -360, high: 720, step: 1, digits: 0, what: 'Which way it faces, clockwise from north; it may run past north' },
  zone: { name: 'Zone', unit: '', low: 0, high: 1, step: 0.05, digits: 2, what: 'Whether it belongs to a named part' },
  distance: { name: 'Distance', unit: 'm', low: 0, high: 20_000, step: 0.1, digits: 1, what: 'How far a track, water, an obstacle, another layer, a shape or the camera is' },
  water_height: { name: 'Over water', unit: 'm', low: -12_000, high: 12_000, step: 0.05, digits: 2, what: 'How high it lies above the nearest water' },
  water_depth: { name: 'Water depth', unit: 'm', low: -1, high: 12_000, step: 0.05, digits: 2, what: 'How deep the water is that stands there; on a water, how deep the land lies under it' },
  downhill: { name: 'Downhill to', unit: 'm', low: 0, high: 20_000, step: 0.1, digits: 1, what: 'How far water runs from it to a track or an outline' },
  facing: { name: 'Facing up', unit: '', low: -1, high: 1, step: 0.01, digits: 2, what: 'Straight up is 1, a wall 0, an underside below' },
  wind: { name: 'Wind', unit: '×', low: 0, high: 3, step: 0.01, digits: 2, what: 'Shelter and exposure: the wind a metre above it, against that over level ground' },
  in_view: { name: 'In view', unit: '°', low: 0, high: 180, step: 1, digits: 0, what: 'What a shot has in its picture, and how far beside it' },
  picture: { name: 'Picture', unit: '', low: 0, high: 1, step: 0.01, digits: 2, what: 'A channel of a picture laid over the plan' },
  colour: { name: 'Colour', unit: '', low: 0, high: 1, step: 0.01, digits: 2, what: 'A flat colour of a map, picked from it' },
  painted: { name: 'Painted', unit: '', low: 0, high: 1, step: 0.01, digits: 2, what: 'Where you paint with a brush in the view' },
  noise: { name: 'Noise', unit: '', low: 0, high: 1, step: 0.01, digits: 2, what: 'Patches of its own' },
  wetness: { name: 'Wetness', unit: '', low: -50, high: 100, step: 0.1, digits: 1, what: 'Where water gathers' },
  openness: { name: 'Openness', unit: '', low: 0, high: 1, step: 0.01, digits: 2, what: 'How much of the sky it sees: keeps plants out of mouths and cracks' },
  sun_hours: { name: 'Sun hours', unit: 'h', low: 0, high: 24, step: 0.1, digits: 1, what: 'How long the sun shines on it on one day, with the shadows of the land' },
  profile_curvature: { name: 'Curvature down', unit: '1/m', low: -1000, high: 1000, step: 0.001, digits: 3, what: 'Brows above zero, feet of slopes below' },
  plan_curvature: { name: 'Curvature across', unit: '1/m', low: -1000, high: 1000, step: 0.001, digits: 3, what: 'Spurs above zero, hollows below' },
}

export const NEVER_ENDS = 20_000

/** The value below which so large a share of the area lies. */
export function below(h: Histogram, share: number): number {
  const wanted = h.areas_m2.reduce((sum, area) => sum + area, 0) * share
  const step = (h.high - h.low) / h.areas_m2.length
  let sum = 0
  for (const [i, area] of h.areas_m2.entries()) {
    if (sum + area >= wanted && area > 0) return h.low + step * (i + (wanted - sum) / area)
    sum += area
  }
  return h.high
}

/** A mask to begin with. `spread` is how the grounds that the layer grows on lie over altitude, where that is known: about half of them is let through. */
export function freshMask(id: number, quantity: Quantity, spread: Histogram | null): Mask {
  const band = (start: number, full_from: number, full_to: number, end: number): Response => ({ start, full_from, full_to, end, inverted: false })
  const base = { id, quantity, enabled: true }
  const whole = QUANTITIES[quantity]
  switch (quantity) {
    case 'slope':
      return { ...base, response: band(0, 0, 45, 54) }
    case 'aspect':
      return { ...base, response: band(110, 140, 220, 250) }
    case 'noise':
      return { ...base, response: band(0.35, 0.6, 1, 1), noise: { kind: 'soft', size_m: 8, rough: 0.4, contrast: 0.3, floor: 0, seed: id } }
    case 'water_height':
      return { ...base, response: band(0, 0, 2, 4) }
    case 'water_depth':
      return { ...base, response: band(0.02, 0.1, 12_000, 12_000) }
    case 'downhill':
      return { ...base, response: band(0, 0, 10, 20), near: { what: 'tracks' } }
    case 'distance':
      return { ...base, response: band(0.5, 1.5, NEVER_ENDS, NEVER_ENDS), near: { what: 'tracks' } }
    case 'facing':
      return { ...base, response: band(0.2, 0.6, 1, 1) }
    case 'in_view':
      return { ...base, response: band(0, 0, 5, 15) }
    case 'colour':
      return { ...base, response: band(0, 0, 0.03, 0.06) }
    case 'picture':
      return { ...base, response: band(0, 1, 1, 1) }
    case 'height_share':
      return { ...base, response: band(0, 0, 0.4, 0.5) }
    case 'openness':
      return { ...base, response: band(0.5, 0.75, 1, 1) }
    case 'sun_hours':
      return { ...base, response: band(8, 12, 24, 24), sun: { latitude_deg: 56, month: 6, day: 21 } }
    case 'wind':
      return { ...base, response: band(0, 0, 0.8, 1), wind: { from_deg: 250 } }
    case 'wetness':
      return { ...base, response: band(6, 8, 100, 100) }
    case 'profile_curvature':
    case 'plan_curvature':
      return { ...base, response: band(-1000, -1000, 0, 0.01) }
    case 'altitude': {
      if (!spread) return { ...base, response: band(whole.low, whole.low, whole.high, whole.high) }
      const at = (metres: number) => Number(metres.toFixed(1))
      const low = Math.floor(spread.low * 10) / 10
      return { ...base, response: band(low, low, at(below(spread, 0.5)), at(below(spread, 0.6))) }
    }
    case 'zone':
    case 'painted':
      return { ...base, response: band(0, 1, 1, 1) }
  }
}

/** What tells the quantity of one mask from that of another: all but what is made of it. */
export function sourceOf({ quantity, zone, noise, near, paint, shot, picture, sun, wind }: Mask): string {
  return JSON.stringify([quantity, zone, noise, near, paint, shot, picture, sun, wind])
}
