import { expect, test } from 'vitest'
import { applyPatch } from './patch'

test('the examples of RFC 6902, appendix A', () => {
  expect(applyPatch({ foo: 'bar' }, [{ op: 'add', path: '/baz', value: 'qux' }])).toEqual({ baz: 'qux', foo: 'bar' })
  expect(applyPatch({ foo: ['bar', 'baz'] }, [{ op: 'add', path: '/foo/1', value: 'qux' }])).toEqual({ foo: ['bar', 'qux', 'baz'] })
  expect(applyPatch({ baz: 'qux', foo: 'bar' }, [{ op: 'remove', path: '/baz' }])).toEqual({ foo: 'bar' })
  expect(applyPatch({ foo: ['bar', 'qux', 'baz'] }, [{ op: 'remove', path: '/foo/1' }])).toEqual({ foo: ['bar', 'baz'] })
  expect(applyPatch({ baz: 'qux', foo: 'bar' }, [{ op: 'replace', path: '/baz', value: 'boo' }])).toEqual({ baz: 'boo', foo: 'bar' })
  expect(applyPatch({ 'a/b': { 'c~d': 1 } }, [{ op: 'replace', path: '/a~1b/c~0d', value: 2 }])).toEqual({ 'a/b': { 'c~d': 2 } })
})

test('what is not touched stays the same object', () => {
  const before = { layers: [{ id: 1, size: { min: 1 } }, { id: 2 }], shots: [] }
  const after = applyPatch(before, [{ op: 'replace', path: '/layers/0/size/min', value: 3 }])
  expect(after.layers[0]).toEqual({ id: 1, size: { min: 3 } })
  expect(after.layers[1]).toBe(before.layers[1])
  expect(after.shots).toBe(before.shots)
  expect(before.layers[0]?.size?.min).toBe(1)
})

test('a patch that does not fit is an error, not a wrong scene', () => {
  expect(() => applyPatch({ a: [1] }, [{ op: 'replace', path: '/a/5', value: 2 }])).toThrow('/a/5')
  expect(() => applyPatch({ a: 1 }, [{ op: 'add', path: '/a/b', value: 2 }])).toThrow('/a/b')
})
