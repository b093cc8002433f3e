import { expect, test } from 'vitest'
import { rampAt } from '../view/ramps'
import { readColour } from './drawSection'

test('what is read has the colour it has on the ground, and what is unknown one of no scale', () => {
  const scale = { low: 10, high: 30, scale: 'rising' as const }
  const rgb = (t: number) => `rgb(${rampAt('rising', t).join(', ')})`
  expect(readColour(scale, 20)).toBe(rgb(0.5))
  expect(readColour(scale, -5)).toBe(rgb(0))
  expect(readColour(scale, 99)).toBe(rgb(1))
  expect(readColour(scale, null)).toBe('rgb(118, 116, 114)')
})
