import { expect, test } from 'vitest'
import { rampAt, rampCss } from './ramps'

test('a scale starts and ends with its own colours and is straight between its steps', () => {
  expect(rampAt('rising', 0)).toEqual([0x00, 0x22, 0x4e])
  expect(rampAt('rising', 1)).toEqual([0xfe, 0xe8, 0x38])
  expect(rampAt('rising', 1.5 / 16)).toEqual([13, 51, 109])
  expect(rampAt('rising', 7)).toEqual([0xfe, 0xe8, 0x38])
})

test('the round scale ends as it starts, the one about zero is pale in the middle', () => {
  expect(rampAt('round', 0)).toEqual(rampAt('round', 1))
  expect(Math.min(...rampAt('about_zero', 0.5))).toBeGreaterThan(240)
})

test('lightness rises along the rising scale', () => {
  // Luminance weights of IEC 61966-2-1.
  const light = (t: number) => {
    const [r, g, b] = rampAt('rising', t).map((c) => ((c / 255 + 0.055) / 1.055) ** 2.4)
    return 0.2126 * r + 0.7152 * g + 0.0722 * b
  }
  for (let t = 0; t < 1; t += 0.05) expect(light(t + 0.05)).toBeGreaterThan(light(t))
})

test('the gradient names every step', () => {
  expect(rampCss('rising').match(/#/g)).toHaveLength(17)
})
