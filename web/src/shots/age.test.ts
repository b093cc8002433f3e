import { expect, test } from 'vitest'
import { ageOf } from './age'

test('a still tells how much was edited since', () => {
  expect(ageOf(26, 26)).toBe('as the scene is now')
  expect(ageOf(26, 27)).toBe('1 edit ago')
  expect(ageOf(26, 40)).toBe('14 edits ago')
})
