import { expect, test } from 'vitest'
import { DEFAULT_SCULPTING, allStrokes, beginStroke, leadOn, onGround } from './sculpting'

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

test('a stroke lies in the own metres of a ground that stands turned and scaled', () => {
  const place = { x_m: 60, z_m: -20, turn_deg: 90, scale: 0.5 }
  // A quarter turn clockwise takes the ground's own north to the east.
  const [x, z] = onGround(place, { x: 65, z: -20 })
  expect(x).toBeCloseTo(0)
  expect(z).toBeCloseTo(-10)
  expect(onGround(undefined, { x: 3, z: 4 })).toEqual([3, 4])
  expect(beginStroke(DEFAULT_SCULPTING, 1, [x, z], 0.5)).toMatchObject({ radius_m: 16, strength: 3 })
  expect(beginStroke({ ...DEFAULT_SCULPTING, tool: 'smooth' }, 1, [x, z], 0.5).strength).toBe(0.8)
})

test('strokes are told by their ground', () => {
  const stroke = beginStroke(DEFAULT_SCULPTING, 4, [0, 0])
  const ground = { id: 7, strokes: [stroke] } as never
  expect(allStrokes([stroke], [ground])).toEqual([{ ground: 0, id: 4 }, { ground: 7, id: 4 }])
  expect(allStrokes(undefined, undefined)).toEqual([])
})
