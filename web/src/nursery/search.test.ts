import { expect, test } from 'vitest'
import type { Species } from '../api/client'
import { flowers, found, freeId } from './search'

const species = (id: string, kind: string, height_m: number, tags: string[], own = false) =>
  ({ id, name: id, plural: `${id}s`, kind, height_m, tags, own }) as unknown as Species
const ALL = [species('thrift', 'cushion', 0.2, ['coast', 'pink']), species('pine', 'conifer', 12, ['tree']), species('reed', 'grass', 2, ['wet'], true)]
const ids = (list: Species[]) => list.map((s) => s.id)
const every = { words: '', kind: null, here: false, order: 'kind' as const, flowering: null }

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

test('what flowers is told by the middle and the length of its season', () => {
  const of = (kind: string, at: number, long: number) => ({ kind, year: { flowers_at: at, flowers_for: long }, plan: { make: 'herb' } }) as unknown as Species
  expect(flowers(of('herb', 1, 0.5), 1.4)).toBe(true)
  expect(flowers(of('herb', 1, 0.5), 1.6)).toBe(false)
  expect(flowers(of('conifer', 1, 0.5), 1)).toBe(false)
  expect(flowers(of('herb', 4, 4), 4)).toBe(false)
})
