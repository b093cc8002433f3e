import { describe, expect, it } from 'vitest'
import { parseNumber, showCount, showNumber, showTriangles } from './parse'

describe('numbers as people type them', () => {
  it.each([
    ['2.5', '', 2.5],
    ['2,5', '', 2.5],
    ['1/3', '', 1 / 3],
    ['12+4', '', 16],
    ['2*(3-1)', '', 4],
    ['-4', '', -4],
    ['\u22124', '', -4],
    ['2.5m', 'm', 2.5],
    ['30 cm', 'm', 0.3],
    ['30 cm', 'cm', 30],
    ['1.2 km', 'm', 1200],
    ['5 cm + 1 m', 'm', 1.05],
    ['35°', '°', 35],
    ['20 %', '%', 20],
    ['9 per m²', 'per m²', 9],
  ])('reads %s in %s', (text, unit, value) => {
    expect(parseNumber(text, unit)).toBeCloseTo(value, 9)
  })

  it.each(['', 'many', '1/0', '2+', '(3', '4 5'])('does not guess at "%s"', (text) => {
    expect(parseNumber(text)).toBeNull()
  })

  it('writes them short', () => {
    expect([showNumber(2.4), showNumber(3), showNumber(-0.5), showNumber(1.005, 1), showNumber(-0.001)]).toEqual([
      '2.4',
      '3',
      '\u22120.5',
      '1',
      '0',
    ])
    expect(showCount(1234567)).toBe('1\u202f234\u202f567')
  })
})

it('triangles are told in words that fit their number', () => {
  expect([0, 840, 25_400, 3_420_000, 81_000_000].map(showTriangles)).toEqual([
    '0 triangles', '840 triangles', '25 thousand triangles', '3.4 million triangles', '81 million triangles',
  ])
})
