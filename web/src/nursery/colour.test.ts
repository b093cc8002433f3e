import { expect, test } from 'vitest'
import { hexFromLinear, linearFromHex } from './colour'
import { sayLength, seasonName } from './kinds'

test('a grey card of 18 per cent is 118 of 255, and colours come back as they went', () => {
  expect(hexFromLinear([0.18, 0, 1])).toBe('#7600ff')
  for (const hex of ['#000000', '#ffffff', '#4c7a45', '#b8406d', '#010203']) expect(hexFromLinear(linearFromHex(hex))).toBe(hex)
})

test('lengths are said as people say them', () => {
  expect([0.004, 0.045, 0.42, 1.35, 12].map(sayLength)).toEqual(['4 mm', '45 mm', '42 cm', '1.4 m', '12.0 m'])
})

test('a moment between two seasons names both', () => {
  expect([0, 1.05, 1.5, 3.9, 4].map(seasonName)).toEqual(['Spring', 'Summer', 'Summer to autumn', 'Dead', 'Dead'])
})
