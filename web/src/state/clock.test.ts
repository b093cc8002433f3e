import { expect, test } from 'vitest'
import { after, stepped } from './clock'

test('time goes on, comes round, or ends', () => {
  expect(after(1, 0.5, 10, true)).toEqual({ time: 1.5, playing: true })
  expect(after(9.75, 0.5, 10, true)).toEqual({ time: 0.25, playing: true })
  expect(after(9.75, 0.5, 10, false)).toEqual({ time: 10, playing: false })
})

test('a step is a picture, from beat to beat', () => {
  expect(stepped(1.01, 1, 24, 10)).toBeCloseTo(25 / 24)
  expect(stepped(0, -1, 24, 10)).toBe(0)
  expect(stepped(9.99, 5, 24, 10)).toBe(10)
})
