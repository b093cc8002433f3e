import { expect, test } from 'vitest'
import { overlayBytes } from './overlay'

test('values fill the scale from end to end and stay within it', () => {
  const values = new Float32Array([-5, 0, 10, 20, 99])
  expect([...overlayBytes({ values, low: 0, high: 20, scale: 'rising' })]).toEqual([1, 1, 128, 255, 255])
})

test('what is unknown is told from the low end', () => {
  const values = new Float32Array([0, NaN, 360])
  expect([...overlayBytes({ values, low: 0, high: 360, scale: 'round' })]).toEqual([1, 0, 255])
})
