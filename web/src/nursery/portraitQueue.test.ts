import { expect, test } from 'vitest'
import { takeTurn } from './portraitQueue'

test('two at a time, in order, and one that is given up makes room for the next', () => {
  const begun: string[] = []
  const wish = (name: string) => takeTurn(() => begun.push(name))
  const [a, b, c, d] = ['a', 'b', 'c', 'd'].map(wish)
  expect(begun).toEqual(['a', 'b'])
  c()
  a()
  a()
  expect(begun).toEqual(['a', 'b', 'd'])
  const late = wish('late')
  const urgent = takeTurn(() => begun.push('urgent'), true)
  b()
  expect(begun.at(-1)).toBe('urgent')
  late()
  urgent()
  d()
  wish('e')()
  expect(begun).toEqual(['a', 'b', 'd', 'urgent', 'e'])
})
