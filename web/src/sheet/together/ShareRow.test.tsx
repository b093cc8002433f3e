// @vitest-environment happy-dom
import { screen } from '@testing-library/react'
import { beforeEach, expect, test, vi } from 'vitest'
import { sampleLayer, sampleScene } from '../../state/sample'
import { shownOver } from '../../ui/shown'
import { ShareRow } from './ShareRow'

const run = vi.fn()
beforeEach(() => vi.clearAllMocks())

const layers = [sampleLayer(1, 'Marram'), sampleLayer(2, 'Gorse'), sampleLayer(3, 'Bracken', { locked: true }), sampleLayer(4, 'Thrift')]

function row(shares: object[], of = layers[0]) {
  const scene = sampleScene(layers)
  Object.assign(scene.document, { shares })
  return shownOver(scene, <ShareRow layer={of} />, { run })
}

test('settings are shared with layers that are chosen; locked ones and those that share already cannot be', async () => {
  const user = row([{ id: 1, settings: 'mix', layers: [2, 4] }])
  await user.click(screen.getByText('Share settings'))
  await user.click(screen.getByRole('radio', { name: 'What grows' }))
  expect(screen.getByLabelText<HTMLInputElement>(/Gorse/).disabled).toBe(true)
  expect(screen.getByLabelText<HTMLInputElement>(/Bracken/).disabled).toBe(true)
  await user.click(screen.getByRole('radio', { name: 'Where' }))
  await user.click(screen.getByLabelText('Thrift'))
  await user.click(screen.getByText('Share them'))
  const [command] = run.mock.lastCall!
  expect(command).toMatchObject({ do: 'put_share', value: { settings: 'masks', layers: [1, 4] } })
  expect(command.value.id).not.toBe(1)
})

test('one of three is parted and the others go on; of two neither shares any more', async () => {
  const three = { id: 7, settings: 'stance', layers: [1, 2, 4] }
  const two = { id: 8, settings: 'amount', layers: [1, 4] }
  const user = row([three, two])
  expect(screen.getByText('How it stands: shared with Gorse, Thrift')).toBeTruthy()
  const [first, second] = screen.getAllByText('Part')
  await user.click(first)
  expect(run.mock.lastCall![0]).toEqual({ do: 'put_share', value: { ...three, layers: [2, 4] } })
  await user.click(second)
  expect(run.mock.lastCall![0]).toEqual({ do: 'remove_share', id: 8 })
})
