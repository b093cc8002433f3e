import { expect, test } from 'vitest'
import { findingWords, sizeOf, type Placing } from './findings'

const placing: Placing = { unit_m: 0.01, up: 'y', recentre: true, turn_over: false }

test('a mesh is as large as its unit and its upright make it', () => {
  const inspection = { low: [0, 0, -50], high: [200, 400, 50], vertices: 8, triangles: 12, parts: [], findings: [] }
  expect(sizeOf(inspection, placing)).toEqual([2, 4, 1])
  expect(sizeOf(inspection, { ...placing, up: 'z' })).toEqual([2, 1, 4])
})

test('findings are said in words with their numbers and what can be done', () => {
  expect(findingWords({ finding: 'degenerate', count: 1 }).text).toBe('1 face has no area; left out.')
  expect(findingWords({ finding: 'open', edges: 1200 }).text).toBe('Not closed: 1\u202f200 edges have a face on one side only.')
  expect(findingWords({ finding: 'maybe_z_up' }).fix?.change).toEqual({ up: 'z' })
})
