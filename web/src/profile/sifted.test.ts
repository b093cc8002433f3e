import { expect, test } from 'vitest'
import type { Species, Tally } from '../api/client'
import { sampleLayer } from '../state/sample'
import { sifted } from './sifted'

const marram = { name: 'Marram tuft', plural: 'Marram tufts', kind: 'grass', tags: ['dune'] } as Species
const cut = { placed: 3, refused: [{ reason: { rule: 'cap' }, count: 2 }] } as Tally

test.each([
  ['marr', true], ['GRASS dune', true], ['grass gorse', false], ['hidden', true], ['locked', false], ['cut', true], ['shown', false], ['', true],
])('a hidden grass of which a ceiling cut some, looked for by %j: %s', (words, fits) => {
  expect(sifted(sampleLayer(1, 'Marram', { visible: false }), { species: [marram], tally: cut }, words)).toBe(fits)
})

test('a layer of which nothing stands is empty; one that has not grown is not', () => {
  const layer = sampleLayer(1, 'Marram')
  expect(sifted(layer, { species: [], tally: { placed: 0, refused: [] } as unknown as Tally }, 'empty')).toBe(true)
  expect(sifted(layer, { species: [] }, 'empty')).toBe(false)
})
