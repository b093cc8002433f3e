import { expect, test } from 'vitest'
import type { Document, Outline } from '../../api/client'
import { sampleLayer, sampleScene } from '../../state/sample'
import { growBy, useOf } from './growBy'

const bed: Outline = { id: 5, name: 'Bed', kind: 'bed', nodes: [[0, 0], [4, 0], [4, 4]], smooth: false, soft_m: 1, width_m: 0 }
const document = (part: Partial<Document> = {}): Document => ({ ...sampleScene([sampleLayer(1, 'Marram'), sampleLayer(2, 'Gorse')]).document, outlines: [bed], ...part })
const masksOf = (command: ReturnType<typeof growBy>) =>
  (command.do === 'all' ? command.commands : [command]).flatMap((c) => (c.do === 'edit_layer' && c.edit.set === 'masks' ? [c.edit.value] : []))

test('an outline is named as a zone and masks all chosen layers, in one step', () => {
  const d = document()
  const command = growBy(d, bed, 'inside', d.layers)
  if (command.do !== 'all') throw new Error(command.do)
  expect(command.commands.map((c) => c.do)).toEqual(['put_zone', 'edit_layer', 'edit_layer'])
  for (const masks of masksOf(command)) expect(masks.map((m) => [m.quantity, m.response.inverted])).toEqual([['slope', false], ['zone', false]])
})

test('what it meant before is told anew, not added to', () => {
  const d = document({ zones: [{ id: 9, name: 'Bed', outlines: [5] }] })
  const inside = masksOf(growBy(d, bed, 'inside', [d.layers[0]]))[0]
  d.layers[0] = { ...d.layers[0], masks: inside }
  expect(useOf(d, bed, d.layers[0])).toBe('inside')
  const out = growBy(d, bed, 'out', [d.layers[0]])
  expect(out.do).toBe('edit_layer')
  d.layers[0] = { ...d.layers[0], masks: masksOf(out)[0] }
  expect([d.layers[0].masks.length, useOf(d, bed, d.layers[0])]).toEqual([2, 'out'])
  d.layers[0] = { ...d.layers[0], masks: masksOf(growBy(d, bed, 'along', [d.layers[0]]))[0] }
  expect(d.layers[0].masks.map((m) => m.quantity)).toEqual(['slope', 'distance'])
  expect(useOf(d, bed, d.layers[0])).toBe('along')
})

test('a zone that holds more than the outline is left to what it was named for', () => {
  const d = document({ zones: [{ id: 9, name: 'Garth', outlines: [5, 6] }] })
  const command = growBy(d, bed, 'inside', [d.layers[0]])
  expect(command.do === 'all' && command.commands[0].do).toBe('put_zone')
  expect(useOf(d, bed, { ...d.layers[0], masks: [{ ...d.layers[0].masks[0], quantity: 'zone', zone: 9 }] })).toBeNull()
})
