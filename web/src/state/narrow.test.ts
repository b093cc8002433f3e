import { expect, test } from 'vitest'
import type { Command, Document, Mask } from '../api/client'
import { between, narrow, type Drag } from './narrow'

const mask = (id: number, more = {}) =>
  ({ id, quantity: 'slope', enabled: true, strength: 1, response: { start: 0, full_from: 0, full_to: 30, end: 40, inverted: false }, ...more }) as Mask
const scene = (masks: Mask[], more = {}) =>
  ({ layers: [{ id: 3, masks, clearance: { least: 0.3, own: { by: 'crown', margin_m: 0 } } }], outlines: [{ id: 9, name: 'Bed', soft_m: 1 }], ground: { source: { kind: 'noise', seed: 1, relief_m: 9 } }, ...more }) as unknown as Document
const setMask = (value: Mask): Command => ({ do: 'edit_layer', id: 3, edit: { set: 'mask', value } })
const maskFields = (id: number, fields: object) => ({ do: 'change', what: { of: 'mask', layer: 3, id }, fields })

test('the examples of RFC 7396 between objects', () => {
  expect(between({ a: 'b' }, { a: 'c' })).toEqual({ a: 'c' })
  expect(between({ a: 'b', b: 'c' }, { b: 'c' })).toEqual({ a: null })
  expect(between({ a: { b: 'c', d: 1 } }, { a: { b: 'd', d: 1 } })).toEqual({ a: { b: 'd' } })
  expect(between({ a: [1] }, { a: [2] })).toEqual({ a: [2] })
})

test('a whole mask names only the fields that differ', () => {
  const now = scene([mask(1), mask(2)])
  expect(narrow(setMask(mask(2, { strength: 0.5 })), now)).toEqual(maskFields(2, { strength: 0.5 }))
  expect(narrow(setMask(mask(2)), now)).toBeNull()
})

test('a drag that returns to where it began still sets its field, and nothing else', () => {
  const began = scene([mask(1)])
  const drag: Drag = { began, set: new Map() }
  expect(narrow(setMask(mask(1, { strength: 0.5 })), began, drag)).toEqual(maskFields(1, { strength: 0.5 }))
  // Someone else turned the mask off meanwhile; the drag still holds the mask as it was.
  const now = scene([mask(1, { strength: 0.5, enabled: false })])
  expect(narrow(setMask(mask(1, { strength: 0.7 })), now, drag)).toEqual(maskFields(1, { strength: 0.7 }))
  expect(narrow(setMask(mask(1)), now, drag)).toEqual(maskFields(1, { strength: 1 }))
})

test('masks that come and go are named one by one', () => {
  const now = scene([mask(1), mask(2)])
  const set = (value: Mask[]) => narrow({ do: 'edit_layer', id: 3, edit: { set: 'masks', value } }, now)
  expect(set([mask(1), mask(2), mask(7)])).toEqual({ do: 'edit_layer', id: 3, edit: { set: 'put_mask', value: mask(7), place: 2 } })
  expect(set([mask(2)])).toEqual({ do: 'edit_layer', id: 3, edit: { set: 'remove_mask', id: 1 } })
  expect(set([mask(2), mask(1)])).toEqual({ do: 'edit_layer', id: 3, edit: { set: 'masks', value: [mask(2), mask(1)] } })
})

test('parts of layers, things on the ground and the land are narrowed too; new things are not', () => {
  const now = scene([])
  const clear = { least: 0.3, own: { by: 'crown', margin_m: 2 } }
  expect(narrow({ do: 'edit_layer', id: 3, edit: { set: 'clearance', value: clear } } as Command, now)).toEqual({ do: 'change', what: { of: 'layer', id: 3 }, fields: { clearance: { own: { margin_m: 2 } } } })
  expect(narrow({ do: 'put_outline', value: { id: 9, name: 'Bed', soft_m: 2 } } as Command, now)).toEqual({ do: 'change', what: { of: 'outline', id: 9 }, fields: { soft_m: 2 } })
  const fresh = { do: 'put_outline', value: { id: 10, name: 'Bed', soft_m: 2 } } as Command
  expect(narrow(fresh, now)).toBe(fresh)
  const land = { do: 'edit_ground', edit: { set: 'source', value: { kind: 'noise', seed: 1, relief_m: 12 } } } as Command
  expect(narrow(land, now)).toEqual({ do: 'change', what: { of: 'land' }, fields: { source: { relief_m: 12 } } })
  const both = narrow({ do: 'all', commands: [land, fresh] }, now)
  expect(both).toEqual({ do: 'all', commands: [{ do: 'change', what: { of: 'land' }, fields: { source: { relief_m: 12 } } }, fresh] })
})

test('a set of pictures that an earth wears is narrowed to what changed of it', () => {
  const set = { id: 'turf', name: 'Cobbles', colour: { blob: 'a', file: 'c.png' }, size_m: 2, relief_m: 0.05 }
  const now = scene([], { earth_pictures: [set] })
  const put = (value: object) => narrow({ do: 'put_earth_pictures', value } as unknown as Command, now)
  expect(put({ ...set, size_m: 3 })).toEqual({ do: 'change', what: { of: 'earth_pictures', id: 'turf' }, fields: { size_m: 3 } })
  expect(put({ ...set, colour: { blob: 'b', file: 'd.png' } })).toEqual({ do: 'change', what: { of: 'earth_pictures', id: 'turf' }, fields: { colour: { blob: 'b', file: 'd.png' } } })
  expect(put({ ...set, id: 'sand' })).toMatchObject({ do: 'put_earth_pictures' })
})
