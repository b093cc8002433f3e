import { expect, test } from 'vitest'
import { windowOf } from './noisePicture'

const ground = { nx: 201, nz: 101, size_m: [100, 50] as [number, number] }
/** Each sample says where it lies. */
const values = Float32Array.from({ length: 201 * 101 }, (_, i) => i)

test('a picture is about the middle of the ground and eight forms wide', () => {
  const { columns, rows, across_m, values: seen } = windowOf(ground, values, 5)
  expect([columns, rows, across_m]).toEqual([80, 40, 40])
  // The north-west corner lies 60 samples from the west and 30 from the north.
  expect(seen[0]).toBe(30 * 201 + 60)
  expect(seen[80]).toBe(31 * 201 + 60)
  expect(seen.at(-1)).toBe(69 * 201 + 139)
})

test('it ends where the ground ends, and never has too few samples to show a form', () => {
  expect(windowOf(ground, values, 2000)).toMatchObject({ columns: 201, rows: 100 })
  expect(windowOf(ground, values, 0.05)).toMatchObject({ columns: 32, rows: 16, across_m: 16 })
  expect(windowOf({ nx: 101, nz: 11, size_m: [50, 5] }, values, 2000)).toMatchObject({ columns: 22, rows: 11 })
})

test('of a wide window samples are left out, so that it is drawn at once', () => {
  const large = { nx: 2001, nz: 2001, size_m: [2000, 2000] as [number, number] }
  const seen = windowOf(large, Float32Array.from({ length: 2001 * 2001 }, (_, i) => i), 2000)
  expect(seen).toMatchObject({ columns: 250, rows: 125, across_m: 2000 })
  // Every eighth, about the middle.
  expect([seen.values[0], seen.values[1] - seen.values[0], seen.values[250] - seen.values[0]]).toEqual([500 * 2001, 8, 8 * 2001])
})
