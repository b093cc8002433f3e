import { expect, test } from 'vitest'
import { reasonWords } from './TallyBar'

test('every reason has a name of its own', () => {
  const names = (['slope', 'altitude', 'zone'] as const).map((quantity) => reasonWords({ rule: 'mask', id: 1, quantity }))
  expect([...names, reasonWords({ rule: 'cap' })]).toEqual(['slope', 'altitude', 'zone', 'over the ceiling'])
})
