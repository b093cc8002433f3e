import { expect, test } from 'vitest'
import type { Document, Species } from '../api/client'
import { EVERYWHERE, onSheet } from '../state/grounds'
import { sampleLayer, sampleScene } from '../state/sample'
import { mixedLayer, newLayer } from './newLayer'

const species = (id: string, kind: string) => ({ id, kind, plural: `${id}s`, usual: { ...sampleLayer(0, ''), mix: [{ species: id, share: 1 }], grounds: [] } }) as unknown as Species
const document = {
  ...sampleScene([]).document,
  ground: { water_m: 2 }, waters: [{ id: 7, name: 'Pool' }],
  grounds: [{ id: 4, name: 'Arch', source: { kind: 'arch' } }, { id: 5, name: 'Planet', source: { kind: 'planet' } }],
} as unknown as Document

test('what floats begins on the waters, all else on all grounds', () => {
  expect(newLayer(document, species('lily', 'floating')).grounds).toEqual([EVERYWHERE, onSheet(7)])
  expect(newLayer(document, species('marram', 'grass')).grounds).toEqual([])
})

test('on the ground that is held, with what that ground asks for', () => {
  const on = (kind: string, chosen: { what: 'ground' | 'water' | 'outline'; id: number }) => {
    const { grounds, masks } = newLayer(document, species('x', kind), chosen)
    return [grounds, masks.map((m) => m.quantity)]
  }
  expect(on('grass', { what: 'ground', id: 4 })).toEqual([[4], ['slope', 'facing']])
  expect(on('grass', { what: 'ground', id: 5 })).toEqual([[5], ['slope']])
  expect(on('grass', { what: 'water', id: 7 })).toEqual([[onSheet(7)], ['slope', 'water_depth']])
  expect(on('floating', { what: 'water', id: 7 })).toEqual([[onSheet(7)], ['slope']])
  expect(on('grass', { what: 'outline', id: 4 })).toEqual([[], ['slope']])
})

test('a mix is named for what is in it', () => {
  const names = (count: number) => mixedLayer(document, ['fescue', 'sedge', 'rush'].slice(0, count).map((s) => species(s, 'grass'))).name
  expect([1, 2, 3].map(names)).toEqual(['fescues', 'fescues and sedges', 'fescues and 2 others'])
})
