import { expect, test } from 'vitest'
import type { Document } from '../api/client'
import { sampleLayer, sampleScene } from './sample'
import { EVERYWHERE, isWater, onSheet, places, standings } from './grounds'

const document = {
  ...sampleScene([sampleLayer(1, 'Marram')]).document,
  ground: { water_m: 2 }, grounds: [{ id: 4, name: 'Arch', x_m: 1, y_m: 2, z_m: 3, turn_deg: 4 }],
  waters: [{ id: 7, name: 'Pool', height_m: 5, x_m: 6, z_m: 8, width_m: 3, depth_m: 3, turn_deg: 9, round: true }],
} as unknown as Document

test('a layer may grow on the land, on grounds beside it, and on waters', () => {
  expect(places(document).map((p) => [p.name, p.water ?? false])).toEqual([['The land', false], ['Arch', false], ['The water', true], ['Pool', true]])
  expect([onSheet(7), EVERYWHERE].every(isWater)).toBe(true)
  expect([0, 4, 4294967295].some(isWater)).toBe(false)
})

test('without land or level there is no water everywhere', () => {
  expect(places({ ...document, ground: { water_m: 2, absent: true } } as Document).map((p) => p.name)).toEqual(['Arch', 'Pool'])
  expect(places({ ...document, ground: {} } as Document).some((p) => p.id === EVERYWHERE)).toBe(false)
})

test('what floats stands where its sheet does', () => {
  expect(standings(document).find((s) => s.id === onSheet(7))).toEqual({ id: onSheet(7), x_m: 6, y_m: 5, z_m: 8, turn_deg: 9 })
})
