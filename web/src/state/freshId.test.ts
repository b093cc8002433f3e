import { expect, test } from 'vitest'
import { freshId } from './scene'

test('new numbers come after those that are there, and two who draw one at once hardly ever choose the same', () => {
  const items = [{ id: 7 }, { id: 40 }]
  const drawn = Array.from({ length: 200 }, () => freshId(items))
  expect(drawn.every((id) => id > 40 && id <= 1040)).toBe(true)
  expect(new Set(drawn).size).toBeGreaterThan(100)
})

test('a list whose numbers are used up gets one that is free', () => {
  const id = freshId([{ id: 0xffffff }, { id: 3 }])
  expect(id).toBeGreaterThan(0)
  expect(id).toBeLessThanOrEqual(0xff0000)
  expect(id).not.toBe(3)
})
