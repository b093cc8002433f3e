import { expect, test } from 'vitest'
import { asBand, bandOf, wantedEnds } from './distanceBand'

const off = { start: 0.5, full_from: 1.5, full_to: 20_000, end: 20_000, inverted: false }

test('what keeps off, keeps close and keeps to a ring are told apart and turned into one another', () => {
  expect(bandOf(off)).toBe('far')
  const close = asBand(off, 'near')
  expect([bandOf(close), close.full_to, close.end]).toEqual(['near', 0.5, 1.5])
  expect(asBand(close, 'far')).toEqual(off)
  const ring = asBand(off, 'ring')
  expect(bandOf(ring)).toBe('ring')
  expect([ring.start, ring.full_from, ring.full_to < ring.end]).toEqual([0.5, 1.5, true])
})

test('only ends that mean something are shown', () => {
  expect(wantedEnds('far')).toEqual(['start', 'full_from'])
  expect(wantedEnds('ring')).toHaveLength(4)
})
