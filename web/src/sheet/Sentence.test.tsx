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
