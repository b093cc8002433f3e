import { expect, test } from 'vitest'
import { overlayBytes } from './overlay'

test('values fill the scale from end to end and stay within it', () => {
  const values = new Float32Array([-5, 0, 10, 20, 99])
  expect([...overlayBytes({ values, low: 0, high: 20, scale: 'rising' })]).toEqual([0, 0, 128, 255, 255])
})
