import { expect, test } from 'vitest'
import { axisMarks } from './AxisMarks'

test('marks are round, within the span and at their places', () => {
  expect(axisMarks(0, 90, 5)).toEqual([0, 20, 40, 60, 80].map((v) => ({ share: v / 90, text: String(v) })))
  for (const [low, high] of [[-0.37, 2.9], [-61, -3], [0.001, 0.0042], [1234, 98765]]) {
    const marks = axisMarks(low, high, 4)
    expect(marks.length).toBeGreaterThanOrEqual(1)
    expect(marks.length).toBeLessThanOrEqual(4)
    for (const { share, text } of marks) {
      const value = Number(text.replaceAll('\u202f', '').replace('\u2212', '-'))
      expect(share).toBeGreaterThanOrEqual(0)
      expect(share).toBeLessThanOrEqual(1)
      // What is written is where it stands.
      expect(low + share * (high - low)).toBeCloseTo(value, 6)
    }
  }
})

test('a minus is a minus sign, and thousands stand apart', () => {
  expect(axisMarks(-20, 20, 5).map((m) => m.text)).toContain('\u221220')
  expect(axisMarks(0, 30_000, 4).map((m) => m.text)).toContain('10\u202f000')
})

test('where all is one value that value is marked', () => {
  expect(axisMarks(3, 3, 4)).toEqual([{ share: 0.5, text: '3' }])
})
