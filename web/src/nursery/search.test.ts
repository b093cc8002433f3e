import { expect, test } from 'vitest'
import type { Species } from '../api/client'
import { found, freeId } from './search'

const species = (id: string, kind: string, height_m: number, tags: string[], own = false) =>
  ({ id, name: id, plural: `${id}s`, kind, height_m, tags, own }) as unknown as Species
const ALL = [species('thrift', 'cushion', 0.2, ['coast', 'pink']), species('pine', 'conifer', 12, ['tree']), species('reed', 'grass', 2, ['wet'], true)]
const ids = (list: Species[]) => list.map((s) => s.id)
const every = { words: '', kind: null, here: false, order: 'kind' as const }

test('all words must be found, in names, tags or kinds', () => {
  expect(ids(found(ALL, { ...every, words: 'coast pi' }, new Set()))).toEqual(['thrift'])
  expect(ids(found(ALL, { ...every, words: 'coast tree' }, new Set()))).toEqual([])
})

test('kind, what is here, and order', () => {
  expect(ids(found(ALL, { ...every, kind: 'grass' }, new Set()))).toEqual(['reed'])
  expect(ids(found(ALL, { ...every, here: true }, new Set(['pine'])))).toEqual(['pine', 'reed'])
  expect(ids(found(ALL, { ...every, order: 'height' }, new Set()))).toEqual(['thrift', 'reed', 'pine'])
})

test('a fork of a fork gets the next free number', () => {
  expect(freeId([{ id: 'thrift' }, { id: 'thrift-2' }], 'thrift-2')).toBe('thrift-3')
})
