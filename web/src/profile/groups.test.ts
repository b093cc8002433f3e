import { expect, test } from 'vitest'
import { sampleLayer } from '../state/sample'
import { forAll, freshGroup, groupsOf, renamed } from './groups'

const layers = [sampleLayer(1, 'Fescue', { group: 'Turf' }), sampleLayer(2, 'Gorse'), sampleLayer(3, 'Sedge', { group: 'Turf', visible: false }), sampleLayer(4, 'Scree', { group: 'Group' })]

test('groups stand in the order of their first layers', () => {
  expect(groupsOf(layers).map((g) => [g.name, g.layers.map((l) => l.id)])).toEqual([['Turf', [1, 3]], ['Group', [4]]])
  expect(groupsOf([layers[1]])).toEqual([])
  expect(freshGroup(groupsOf(layers))).toBe('Group 2')
})

test('a group is hidden in one step, which names only those that change', () => {
  const [turf] = groupsOf(layers)
  expect(forAll(turf, 'visible', false)).toEqual({ do: 'edit_layer', id: 1, edit: { set: 'visible', value: false } })
  expect(forAll(turf, 'locked', false)).toBeNull()
  const both = forAll(turf, 'locked', true)
  expect(both?.do === 'all' && both.commands.length).toBe(2)
})

test('a group gets another name, or is parted', () => {
  const [turf] = groupsOf(layers)
  for (const value of ['Sward', null]) {
    const command = renamed(turf, value)
    expect(command?.do === 'all' && command.commands.map((c) => c.do === 'edit_layer' && c.edit)).toEqual([{ set: 'group', value }, { set: 'group', value }])
  }
})
