// @vitest-environment happy-dom
import { screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { beforeEach, expect, test, vi } from 'vitest'
import { sampleLayer, sampleScene } from '../state/sample'
import { useScene } from '../state/scene'
import { shown } from '../ui/shown'
import { Sentence } from './Sentence'

const editLayer = vi.fn()
beforeEach(() => vi.clearAllMocks())

function sentence(locked = false) {
  const layer = sampleLayer(1, 'Marram', { locked })
  const scene = sampleScene([layer])
  scene.layers[0].sentence = [
    { text: 'Marram tufts', setting: 'species' }, { text: ', ', setting: null }, { text: '2.4 per m²', setting: 'amount' },
    { text: ', where the ground slopes ', setting: null }, { text: '0\u201327°, fading to 38°', setting: 'mask:1' }, { text: '.', setting: null },
  ]
  useScene.setState({ scene, editLayer })
  shown(<Sentence layer={layer} />)
  return userEvent.setup()
}

test('it reads as the core wrote it, with no space lost or doubled', () => {
  sentence()
  expect(screen.getByTestId('sentence').textContent).toBe('Marram tufts, 2.4 per m², where the ground slopes 0\u201327°, fading to 38°.')
})

test('a value opens its setting in place, and what is typed there is set', async () => {
  const user = sentence()
  await user.click(screen.getByText('0\u201327°, fading to 38°'))
  const end = await screen.findByLabelText('ends at')
  await user.click(end)
  await user.keyboard('40{Enter}')
  expect(editLayer.mock.lastCall!.slice(0, 2)).toMatchObject([1, { set: 'mask', value: { id: 1, response: { end: 40 } } }])
})

test('that of a locked layer opens nothing', async () => {
  const user = sentence(true)
  await user.click(screen.getByText('2.4 per m²'))
  expect(document.querySelector('[data-radix-popper-content-wrapper]')).toBeNull()
})

/** Broke: each number had to be found with the mouse again. */
test('Tab takes what was typed and goes on to the next number, from one value to the next', async () => {
  const user = sentence()
  await user.click(screen.getByText('2.4 per m²'))
  const amount = await screen.findByTestId('amount-per-m2')
  expect(document.activeElement).toBe(amount)
  await user.keyboard('3')
  // The same amount in other units is no stop on the way.
  await user.tab()
  expect(editLayer.mock.calls.some(([, edit]) => edit.set === 'amount' && edit.value.value === 3)).toBe(true)
  const mask = (await screen.findByLabelText('ends at')).closest('[role=dialog]')!
  await vi.waitFor(() => expect(document.activeElement).toBe(mask.querySelector('input[inputmode=decimal]')))
})
