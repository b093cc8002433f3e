import { describe, expect, it } from 'vitest'
import { responseAt } from '../view/stage/grid'
import { digitsFor, rounded, sameResponse, settled } from './response'

const curve = { start: 2, full_from: 4, full_to: 10, end: 20, inverted: false }

describe('a response curve', () => {
  it('keeps its ends in order whichever is moved', () => {
    expect(settled(curve, 'full_from', 15)).toMatchObject({ start: 2, full_from: 15, full_to: 15, end: 20 })
    expect(settled(curve, 'end', 1)).toMatchObject({ start: 1, full_from: 1, full_to: 1, end: 1 })
    expect(settled(curve, 'start', 3)).toEqual({ ...curve, start: 3 })
  })

  it('keeps values as fine as its picture shows them, and no coarser than the quantity is told', () => {
    // Curvature snapped to 0 and openness had ten steps when all were kept with one digit.
    expect(digitsFor(3, -0.04, 0.04)).toBe(4)
    expect(digitsFor(2, 0, 1)).toBe(3)
    expect(digitsFor(1, 0, 90)).toBe(1)
    expect(digitsFor(0, 0, 360)).toBe(1)
    expect(digitsFor(1, 0, 60_000)).toBe(1)
    for (const [low, high, own] of [[-0.04, 0.04, 3], [0, 1, 2], [0, 2e-7, 0]]) {
      const digits = digitsFor(own, low, high)
      const steps = new Set(Array.from({ length: 262 }, (_, i) => rounded(low + ((high - low) * i) / 261, digits)))
      expect(steps.size).toBeGreaterThan(high - low < 1e-4 ? 0 : 250)
    }
  })

  it('knows when what was dragged is what is known', () => {
    expect(sameResponse(curve, { ...curve })).toBe(true)
    expect(sameResponse(curve, { ...curve, end: 21 })).toBe(false)
    expect(sameResponse(curve, { ...curve, inverted: true })).toBe(false)
  })

  it('answers as the core does', () => {
    // The table of core's own test, crates/rookery-core/src/habitat/response.rs.
    const table = [[0, 0], [2, 0], [3, 0.5], [4, 1], [7, 1], [10, 1], [15, 0.5], [20, 0], [99, 0]]
    for (const [q, v] of table) {
      expect(responseAt(curve, q)).toBe(v)
      expect(responseAt({ ...curve, inverted: true }, q)).toBe(1 - v)
    }
  })
})
