import { expect, test } from 'vitest'
import { DEFAULT_BRUSH, beginPaint, leadPaint, pressureOf } from './painting'

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

test('a pen is heeded point by point, a mouse is not', () => {
  const brush = { ...DEFAULT_BRUSH, paint: 1 }
  let stroke = beginPaint(brush, 1, [0, 0, 0], pressureOf({ pointerType: 'pen', pressure: 0.254 }))
  stroke = leadPaint(stroke, [5, 0, 0], 0.5)!
  // A pen that was lifted off the view for a moment keeps what it had.
  stroke = leadPaint(stroke, [10, 0, 0])!
  expect(stroke.pressures).toEqual([0.25, 0.5, 0.5])
  expect(stroke.points.length).toBe(3)
  const plain = leadPaint(beginPaint(brush, 2, [0, 0, 0], pressureOf({ pointerType: 'mouse', pressure: 0.5 })), [5, 0, 0], null)!
  expect('pressures' in plain).toBe(false)
})
