import { expect, test } from 'vitest'
import type { Document, Layer } from '../api/client'
import { sampleLayer, sampleScene } from '../state/sample'
import { copied, fromText, pasted } from './copied'

const own = { id: 'own-sedge', name: 'Sedge' } as unknown as NonNullable<Document['species']>[number]
const scene = (layers: Layer[], species: Document['species'] = []): Document => ({ ...sampleScene(layers).document, species })

test('layers travel as text with the species of the scene that they grow, and no others', () => {
  const document = scene([sampleLayer(1, 'Sedge', { mix: [{ species: 'own-sedge', share: 1 }] }), sampleLayer(2, 'Marram')], [own, { ...own, id: 'other' }])
  const found = fromText(JSON.stringify(copied(document, [1])))!
  expect(found.layers.map((l) => l.name)).toEqual(['Sedge'])
  expect(found.species.map((s) => s.id)).toEqual(['own-sedge'])
})

test('what is no layer is not pasted', () => {
  for (const text of ['', 'marram', '{}', '{"rookery":"layers","layers":[],"species":[]}', '{"rookery":"layers","layers":[{"id":"x"}],"species":[]}', 'null']) expect(fromText(text)).toBeNull()
})

test('pasted layers get numbers and names of their own, bring what is missing, and keep their order as one step', () => {
  const from = scene([sampleLayer(1, 'Sedge', { mix: [{ species: 'own-sedge', share: 1 }], locked: true }), sampleLayer(2, 'Marram')], [own])
  const to = scene([sampleLayer(1, 'Marram')])
  const { command, ids } = pasted(to, copied(from, [1, 2]))
  expect(new Set([...ids, 1]).size).toBe(3)
  if (command.do !== 'all') throw new Error('one step')
  expect(command.commands[0]).toEqual({ do: 'put_species', value: own })
  const added = command.commands.flatMap((c) => (c.do === 'add_layer' ? [c] : []))
  // Each is put on top, so the last one that is put is the first of them.
  expect(added.map((c) => [c.layer.name, c.place, c.layer.locked])).toEqual([['Marram 2', 0, false], ['Sedge', 0, false]])
})

test('what a mask refers to by number in the old scene is left out; what means the same anywhere comes along', () => {
  const slope = sampleLayer(1, 'x').masks[0]
  const layer = sampleLayer(1, 'Marram', { masks: [slope, { ...slope, id: 2, quantity: 'zone', zone: 4 }, { ...slope, id: 3, quantity: 'painted', paint: 9 }] as Layer['masks'], grounds: [3] })
  const { command, left } = pasted(scene([]), copied(scene([layer]), [1]))
  expect(left).toBe(2)
  if (command.do !== 'add_layer') throw new Error('one layer')
  expect(command.layer.masks.map((m) => m.quantity)).toEqual(['slope'])
  expect(command.layer.grounds).toEqual([])
})

/** Broke: a layer without rows of its own was given some that say no more than that they follow no line, and the server refused it. */
test('a layer in no rows comes without any, one in rows loses only the line it followed', () => {
  const rowsOf = (layer: Layer) => {
    const { command } = pasted(scene([]), copied(scene([layer]), [1]))
    return command.do === 'add_layer' && 'rows' in command.layer ? command.layer.rows : 'none'
  }
  expect(rowsOf(sampleLayer(1, 'Ragwort'))).toBe('none')
  const rows = { between_m: 1, along_m: 2, line: 4 } as Layer['rows']
  expect(rowsOf(sampleLayer(1, 'Gorse', { rows }))).toEqual({ between_m: 1, along_m: 2, line: null })
})
