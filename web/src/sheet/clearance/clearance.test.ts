import { expect, test } from 'vitest'
import { sayWay, wayOf } from './clearance'

const order = [4, 7]

test('of two layers the lower yields, and what follows from the profile is not written down', () => {
  expect(sayWay(order, [], 7, 4, 'yields')).toBeNull()
  expect(sayWay(order, [], 4, 7, 'claims')).toBeNull()
  expect(sayWay(order, [], 7, 4, 'claims')).toEqual({ do: 'put_yield', value: { layer: 4, to: 7, yields: true } })
  expect(sayWay(order, [], 7, 4, 'together')).toEqual({ do: 'put_yield', value: { layer: 7, to: 4, yields: false } })
  const said = [{ layer: 4, to: 7, yields: true }]
  expect(sayWay(order, said, 7, 4, 'yields')).toEqual({ do: 'remove_yield', layer: 7, to: 4 })
})

test('a way is read from who yields to whom', () => {
  const yieldsTo = (id: number) => (id === 7 ? [4] : [])
  expect(wayOf(7, 4, yieldsTo)).toBe('yields')
  expect(wayOf(4, 7, yieldsTo)).toBe('claims')
  expect(wayOf(4, 9, yieldsTo)).toBe('together')
})
