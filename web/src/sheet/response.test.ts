import { describe, expect, it } from 'vitest'
import { responseAt } from '../view/stage/grid'
import { settled } from './response'

const curve = { start: 2, full_from: 4, full_to: 10, end: 20, inverted: false }

describe('a response curve', () => {
  it('keeps its ends in order whichever is moved', () => {
    expect(settled(curve, 'full_from', 15)).toMatchObject({ start: 2, full_from: 15, full_to: 15, end: 20 })
    expect(settled(curve, 'end', 1)).toMatchObject({ start: 1, full_from: 1, full_to: 1, end: 1 })
    expect(settled(curve, 'start', 3)).toEqual({ ...curve, start: 3 })
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
