import { expect, test } from 'vitest'
import { leadOf, parts, percents, withBorder, withPart, withSpecies } from './mix'

const mix = [
  { species: 'fescue', share: 0.5 },
  { species: 'thrift', share: 0.3 },
  { species: 'sedge', share: 0.2 },
]

test('a species at a part of the whole leaves the others in their proportion', () => {
  const after = withPart(mix, 0, 0.8)
  expect(parts(after)[0]).toBeCloseTo(0.8, 3)
  expect(after[1].share / after[2].share).toBeCloseTo(1.5, 2)
  expect(withPart([mix[0]], 0, 0.2)).toEqual([{ species: 'fescue', share: 1 }])
})

test('a border between two neighbours changes only those two', () => {
  const after = withBorder(mix, 0, 0.1)
  expect(after.map((m) => m.share)).toEqual([0.1, 0.7, 0.2])
  expect(withBorder(mix, 1, 2).map((m) => m.share)).toEqual([0.5, 0.5, 0])
})

test('a new species gets as much as the others on average', () => {
  const after = withSpecies(mix, 'gorse')
  expect(parts(after)[3]).toBeCloseTo(0.25, 3)
  expect(leadOf({ mix: after })).toBe('fescue')
})

/** Broke: three thirds were shown as 99, and others as 101. */
test.each([[[1, 1, 1], [34, 33, 33]], [[0.285, 0.285, 0.43], [29, 28, 43]], [[1, 1, 1, 1], [25, 25, 25, 25]], [[0, 0], [50, 50]], [[0.005, 0.005, 0.99], [1, 0, 99]]])(
  'shares %j are shown as whole hundredths that add up',
  (shares, shown) => {
    const mix = shares.map((share, i) => ({ species: `s${i}`, share }))
    expect(percents(mix)).toEqual(shown)
    expect(percents(mix).reduce((a, b) => a + b)).toBe(100)
  },
)
