import { expect, test } from 'vitest'
import { duplicateOf } from './duplicate'

test('a copy has an id and an arrangement of its own', () => {
  const layers = [{ id: 3, seed: 7 }, { id: 4, seed: 7 }] as never[]
  const [one, other] = [duplicateOf(layers[0], layers), duplicateOf(layers[0], layers)]
  expect(one).toMatchObject({ do: 'duplicate_layer', id: 3 })
  expect([3, 4]).not.toContain(one.copy)
  expect(Number.isInteger(one.seed) && one.seed! >= 0 && one.seed! < 2 ** 31).toBe(true)
  expect(one.seed).not.toBe(other.seed)
})
