import { expect, test } from 'vitest'
import { READY, newGround } from './placed'

test('a new ground has a number and a name of its own', () => {
  const first = newGround(READY.arch.source, 'Sea arch', [1.234, 2, 3], [])
  expect([first.name, first.x_m, first.upright]).toEqual(['Sea arch', 1.23, 'gravity'])
  expect(first.id).toBeGreaterThan(0)
  const second = newGround(READY.planet.source, 'Sea arch', [0, 0, 0], [{ ...first, id: 7 }])
  expect(second.id).not.toBe(first.id)
  expect([second.name, second.upright]).toEqual(['Sea arch 2', 'centre'])
})
