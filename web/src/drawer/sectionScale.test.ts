import { expect, test } from 'vitest'
import { marks } from '../ui/marks'
import { sectionScale } from './sectionScale'

const sheet = { left: 40, top: 10, width: 600, height: 120 }

test('a hilly section is drawn true to scale', () => {
  const s = sectionScale(240, 0, 30, sheet)
  expect(s.exaggeration).toBe(1)
  expect(s.x(0)).toBe(40)
  expect(s.x(240)).toBe(640)
  expect(s.y(0) - s.y(30)).toBeCloseTo(75, 5)
})

test('a long flat section is drawn taller, and says by how much', () => {
  const s = sectionScale(4000, 0, 20, sheet)
  expect(s.exaggeration).toBeGreaterThan(5)
  expect(s.y(0) - s.y(20)).toBeLessThanOrEqual(120)
  expect(s.y(0) - s.y(20)).toBeGreaterThan(40)
})

test('a cliff taller than the sheet is pressed into it', () => {
  const s = sectionScale(20, 0, 200, sheet)
  expect(s.exaggeration).toBeLessThan(1)
  expect(s.y(200)).toBeGreaterThanOrEqual(9.9)
})

test('marks stand on round numbers', () => {
  expect(marks(-6.6, 32.7, 5)).toEqual([0, 10, 20, 30])
  expect(marks(0, 240, 8)).toEqual([0, 50, 100, 150, 200])
})
