import { expect, test } from 'vitest'
import { ageOf } from './age'

test('a still tells when it was taken and how much was edited since', () => {
  const now = Date.parse('2026-11-30T12:00:00Z')
  const age = (created_at: string, scene: number) => ageOf({ seq: 26, created_at }, scene, now)
  expect(age('2026-11-30T11:59:30Z', 26)).toBe('just now, as the scene is now')
  expect(age('2026-11-30T11:55:30Z', 27)).toBe('4 min ago, 1 edit since')
  expect(age('2026-11-30T04:55:30Z', 40)).toBe('7 h ago, 14 edits since')
  expect(age('2026-11-27T11:55:30Z', 40)).toBe('3 days ago, 14 edits since')
})
