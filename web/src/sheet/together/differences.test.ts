import { expect, test } from 'vitest'
import type { Layer } from '../../api/client'
import { differences } from './differences'

const layer = {
  id: 1, name: 'Turf', visible: true, locked: false, seed: 4, amount: { unit: 'per_m2', value: 2.4 },
  masks: [{ id: 1, quantity: 'slope', response: { start: 0, full_from: 0, full_to: 30, end: 40, inverted: false } }],
  stance: { tilt_deg: 6 },
} as unknown as Layer

test('two versions differ in what was changed and in nothing else', () => {
  const other = structuredClone(layer)
  other.name = 'Other'
  other.amount = { unit: 'per_m2', value: 3 }
  other.stance.tilt_deg = 2
  other.masks[0].response.end = 50
  expect(differences(layer, other)).toEqual([
    { setting: 'amount, value', now: '2.4', kept: '3' },
    { setting: 'masks, slope, response, end', now: '40', kept: '50' },
    { setting: 'stance, tilt', now: '6', kept: '2' },
  ])
  expect(differences(layer, layer)).toEqual([])
})

test('masks that come or go are counted', () => {
  expect(differences(layer, { ...layer, masks: [] })).toEqual([{ setting: 'masks', now: '1', kept: '0' }])
})
