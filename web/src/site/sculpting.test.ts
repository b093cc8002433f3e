import { expect, test } from 'vitest'
import { DEFAULT_SCULPTING, beginStroke, leadOn } from './sculpting'

test('a stroke takes metres for lifting and a share for smoothing', () => {
  expect(beginStroke(DEFAULT_SCULPTING, 4, [1, 2])).toEqual({
    id: 4, tool: 'raise', radius_m: 8, strength: 1.5, falloff: 0.7, points: [[1, 2]],
  })
  expect(beginStroke({ ...DEFAULT_SCULPTING, tool: 'flatten' }, 4, [1, 2]).strength).toBe(0.8)
})

test('points too near the last are left out, and a stroke ends somewhere', () => {
  let stroke = beginStroke(DEFAULT_SCULPTING, 1, [0, 0])
  expect(leadOn(stroke, [0.5, 0.5])).toBeNull()
  for (let i = 1; i < 3000; i++) stroke = leadOn(stroke, [i * 2, 0]) ?? stroke
  expect(stroke.points).toHaveLength(2000)
})
