import { expect, test } from 'vitest'
import { MONTHS, inMonth } from './sunDay'

test('a day that a shorter month has not becomes its last', () => {
  expect(inMonth({ latitude_deg: 10, month: 1, day: 31 }, 2)).toEqual({ latitude_deg: 10, month: 2, day: 28 })
  expect(inMonth({ latitude_deg: 10, month: 2, day: 3 }, 12).day).toBe(3)
  expect(MONTHS.reduce((sum, m) => sum + m.days, 0)).toBe(365)
})
