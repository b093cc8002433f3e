import { expect, test } from 'vitest'
import type { Layer, Mask } from '../api/client'
import { alongside } from './together'

const mask = (id: number, quantity: string, rest: object = {}) =>
  ({ id, quantity, enabled: true, response: { start: 0, full_from: 0, full_to: 1, end: 1, inverted: false }, ...rest }) as Mask
const layer = (id: number, masks: Mask[]) => ({ id, seed: id, masks }) as Layer
const slope = mask(1, 'slope')
const painted = mask(2, 'painted', { paint: 9 })

test('settings are taken over as they are, what is each layer\u2019s own is not', () => {
  const [a, b] = [layer(1, []), layer(2, [])]
  const amount = { set: 'amount', value: { unit: 'per_m2', value: 3 } } as const
  expect(alongside(amount, a, b, 0)).toBe(amount)
  for (const set of ['name', 'tend', 'drifts', 'visible', 'locked', 'kept_seeds']) expect(alongside({ set } as never, a, b, 0)).toBeNull()
})

/** Broke: arranging five layers anew reached one of them. */
test('each is arranged anew, none as another', () => {
  const seeds = [0, 1, 2].map((nth) => alongside({ set: 'seed', value: 5 }, layer(1, []), layer(2 + nth, []), nth))
  const values = seeds.map((s) => (s as { value: number }).value)
  expect(new Set([5, ...values]).size).toBe(4)
  expect(values.every((v) => Number.isInteger(v) && v >= 0 && v < 2 ** 32)).toBe(true)
})

/** Broke: a mask that was added to one took all masks from the others. */
test('a mask that is added is added to the others, whose own stay', () => {
  const own = [mask(7, 'slope'), mask(8, 'altitude')]
  const edit = { set: 'masks', value: [slope, painted] } as const
  expect(alongside({ ...edit, value: [...edit.value] }, layer(1, [slope]), layer(2, own), 0)).toEqual({
    set: 'masks', value: [...own, { ...painted, id: 9 }],
  })
  // One that looks at the same is there already.
  expect(alongside({ set: 'masks', value: [slope, painted] }, layer(1, [slope]), layer(2, [{ ...painted, id: 4 }]), 0)).toBeNull()
})

test('a mask that is taken away is taken from those that have it', () => {
  const edit = { set: 'masks', value: [slope] } as never
  expect(alongside(edit, layer(1, [slope, painted]), layer(2, [{ ...painted, id: 4 }, mask(8, 'altitude')]), 0)).toEqual({
    set: 'masks', value: [mask(8, 'altitude')],
  })
  expect(alongside(edit, layer(1, [slope, painted]), layer(2, [mask(8, 'altitude')]), 0)).toBeNull()
})

test('a curve that is drawn is drawn for the mask that looks at the same', () => {
  const drawn = { ...slope, response: { ...slope.response, end: 40 } }
  expect(alongside({ set: 'mask', value: drawn }, layer(1, [slope]), layer(2, [mask(5, 'altitude'), mask(6, 'slope')]), 0)).toEqual({
    set: 'mask', value: { ...drawn, id: 6 },
  })
  expect(alongside({ set: 'mask', value: drawn }, layer(1, [slope]), layer(2, []), 0)).toBeNull()
})
