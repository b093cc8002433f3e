// @vitest-environment happy-dom
import { screen } from '@testing-library/react'
import { beforeEach, expect, test, vi } from 'vitest'
import type { Layer } from '../../api/client'
import { sampleLayer, sampleScene } from '../../state/sample'
import { useUi } from '../../state/ui'
import { shownOver } from '../../ui/shown'
import { AddMask } from './AddMask'
import { QUANTITIES } from './quantities'

const editLayer = vi.fn()

beforeEach(() => vi.clearAllMocks())

function add(layer: Layer, zones: { id: number; name: string }[] = []) {
  const scene = sampleScene([layer])
  Object.assign(scene.document, { zones })
  return shownOver(scene, <AddMask layer={layer} />, { editLayer })
}

const layer = sampleLayer(1, 'Marram')
const added = () => editLayer.mock.lastCall![1].value as Layer['masks']

test('every quantity can be added, and what lacks something says what', async () => {
  const user = add(layer)
  await user.click(screen.getByTestId('add-mask'))
  const items = screen.getAllByRole('menuitem')
  expect(items).toHaveLength(Object.keys(QUANTITIES).length)
  const zone = screen.getByTestId('add-zone-mask')
  expect(zone.getAttribute('aria-disabled')).toBe('true')
  expect(zone.textContent).toContain('Name a part of the ground first')
  expect(screen.getByTestId('add-in_view-mask').textContent).toContain('Save a shot first')
})

test('a mask is added behind the others with a number of its own', async () => {
  const user = add(layer)
  await user.click(screen.getByTestId('add-mask'))
  await user.click(screen.getByTestId('add-altitude-mask'))
  expect(added().map((m) => m.quantity)).toEqual(['slope', 'altitude'])
  expect(new Set(added().map((m) => m.id)).size).toBe(2)
})

test('that of a zone takes the first zone whole', async () => {
  const user = add(layer, [{ id: 6, name: 'Garth' }])
  await user.click(screen.getByTestId('add-mask'))
  await user.click(screen.getByTestId('add-zone-mask'))
  expect(added()[1]).toMatchObject({ quantity: 'zone', zone: 6, response: { start: 0, full_from: 1, full_to: 1, end: 1 } })
})

test('masks that were taken along are added as copies with numbers of their own', async () => {
  const user = add(layer)
  await user.click(screen.getByText('Copy all'))
  await user.click(screen.getByText('Paste 1'))
  expect(added()).toHaveLength(2)
  expect(added()[1]).toMatchObject({ quantity: 'slope', response: layer.masks[0].response })
  expect(added()[1].id).not.toBe(added()[0].id)
})

test('to a locked layer nothing is added', async () => {
  useUi.setState({ copiedMasks: layer.masks })
  const user = add(sampleLayer(1, 'Marram', { locked: true }))
  await user.click(screen.getByText('Paste 1'))
  await user.click(screen.getByTestId('add-mask'))
  expect(screen.queryAllByRole('menuitem')).toEqual([])
  expect(editLayer).not.toHaveBeenCalled()
})

/** Broke: it took the first shot while one looked through another. */
test('a mask of what is in view takes the shot that is looked through', async () => {
  const scene = sampleScene([layer])
  Object.assign(scene.document, { shots: [{ id: 4, name: 'First' }, { id: 9, name: 'Second' }] })
  useUi.setState({ shot: 9 })
  const user = shownOver(scene, <AddMask layer={layer} />, { editLayer })
  await user.click(screen.getByTestId('add-mask'))
  await user.click(screen.getByTestId('add-in_view-mask'))
  expect(added().at(-1)!.shot).toBe(9)
})

test('the likeliest kinds are one click away, those that lack nothing', async () => {
  const user = add(layer)
  expect(screen.queryByTestId('quick-zone-mask')).toBeNull()
  expect(screen.queryByTestId('quick-in_view-mask')).toBeNull()
  await user.click(screen.getByTestId('quick-noise-mask'))
  expect(added().map((m) => m.quantity)).toEqual(['slope', 'noise'])
})
