import { expect, test } from 'vitest'
import type { Response, Shot } from '../api/client'
import { sampleLayer, sampleScene } from '../state/sample'
import { byDistance, times } from './byDistance'

/** Rises from start to full, and falls from full to end. */
const responseAt = ({ start, full_from, full_to, end }: Response, x: number) =>
  Math.min(1, Math.max(0, Math.min(full_from > start ? (x - start) / (full_from - start) : x >= start ? 1 : 0, end > full_to ? (end - x) / (end - full_to) : x <= end ? 1 : 0)))

const shot = { id: 3, eye_m: [0, 0, 0], target_m: [30, 0, 40] } as unknown as Shot
const layer = sampleLayer(1, 'Fescue')
const document = sampleScene([sampleLayer(5, 'Gorse'), layer]).document

test('a layer becomes three in a group, near, middle and far, one step', () => {
  const { command, ids } = byDistance(document, layer, shot)
  if (command.do !== 'all') throw new Error(command.do)
  const added = command.commands.flatMap((c) => (c.do === 'add_layer' ? [c] : []))
  expect(added.map((c) => [c.layer.name, c.layer.group, c.place])).toEqual([['Fescue, middle', 'Fescue', 2], ['Fescue, far', 'Fescue', 3]])
  expect(added.map((c) => c.layer.amount)).toEqual([{ unit: 'per_m2', value: 1.2 }, { unit: 'per_m2', value: 0.48 }])
  expect(new Set(ids).size).toBe(3)
  expect(new Set([...added.map((c) => c.layer.seed), layer.seed]).size).toBe(3)
})

test('bands leave no gap and no doubling: at any distance their shares come to one', () => {
  const { command } = byDistance(document, layer, shot)
  if (command.do !== 'all') throw new Error(command.do)
  const masks = command.commands.flatMap((c) => (c.do === 'add_layer' ? [c.layer.masks] : c.do === 'edit_layer' && c.edit.set === 'masks' ? [c.edit.value] : []))
  const bands = masks.map((all) => all.find((m) => m.near?.what === 'camera')!.response)
  for (let d = 0.5; d < 200; d += 0.7) expect(bands.reduce((sum, r) => sum + responseAt(r, d), 0)).toBeCloseTo(1, 1)
})

test('an amount is made sparser in its own unit', () => {
  expect(times({ unit: 'total', value: 101 }, 0.5)).toEqual({ unit: 'total', value: 51 })
  expect(times({ unit: 'spacing', value_m: 2 }, 0.25)).toEqual({ unit: 'spacing', value_m: 4 })
  expect(times({ unit: 'cover', value: 0.8 }, 0.5)).toEqual({ unit: 'cover', value: 0.4 })
})
