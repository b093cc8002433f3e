import { expect, test } from 'vitest'
import { READY, newGround } from './placed'

test('a new ground has a number and a name of its own', () => {
  const first = newGround(READY.arch.source, 'Sea arch', [1.234, 2, 3], [])
  expect([first.id, first.name, first.x_m, first.upright]).toEqual([1, 'Sea arch', 1.23, 'gravity'])
  const second = newGround(READY.planet.source, 'Sea arch', [0, 0, 0], [{ ...first, id: 7 }])
  expect([second.id, second.name, second.upright]).toEqual([8, 'Sea arch 2', 'centre'])
})
