import { expect, test } from 'vitest'
import { DEFAULT_BRUSH, beginPaint, leadPaint } from './painting'

const brush = { ...DEFAULT_BRUSH, paint: 1, radius_m: 5 }

test('a stroke starts where the brush goes down and grows by steps that matter', () => {
  const stroke = beginPaint(brush, 7, [1.23456, 2, 3])
  expect(stroke).toMatchObject({ id: 7, tool: 'add', radius_m: 5, points: [[1.23, 2, 3]] })
  expect(leadPaint(stroke, [1.5, 2, 3])).toBeNull()
  expect(leadPaint(stroke, [3, 2, 3])!.points).toEqual([[1.23, 2, 3], [3, 2, 3]])
})

test('a stroke ends growing at its limit', () => {
  const long = { ...beginPaint(brush, 1, [0, 0, 0]), points: Array.from({ length: 2000 }, (_, i) => [i, 0, 0]) }
  expect(leadPaint(long, [9999, 0, 0])).toBeNull()
})
