// @vitest-environment happy-dom
import { screen } from '@testing-library/react'
import { beforeEach, expect, test, vi } from 'vitest'
import type { Command } from '../api/client'
import { queries } from '../state/data'
import { lately } from '../nursery/lately'
import { sampleLayer, sampleScene } from '../state/sample'
import { useUi } from '../state/ui'
import { shownOver } from '../ui/shown'
import { AddLayer } from './AddLayer'

const { mix: _, ...usual } = sampleLayer(0, '')
const species = [
  ['thrift', 'Thrift', 'herb', 0.2], ['fescue', 'Fescue', 'grass', 0.3], ['marram', 'Marram', 'grass', 0.9],
].map(([id, name, kind, height_m]) => ({ id, name, plural: `${name}s`, kind, height_m, radius_m: 0.1, tags: id === 'marram' ? ['dune'] : [], usual: { ...usual, mix: [{ species: id, share: 1 }] } }))

const run = vi.fn<(command: Command) => void>()

beforeEach(() => {
  run.mockClear()
  localStorage.clear()
})

async function opened() {
  const scene = sampleScene([sampleLayer(1, 'Marram'), sampleLayer(2, 'Gorse')])
  queries.setQueryData(['nursery', scene.id, JSON.stringify([undefined, undefined])], { species, settings: {} })
  useUi.setState({ layer: 1, together: [2] })
  const user = shownOver(scene, <AddLayer />, { run })
  await user.click(screen.getByText('Add layer'))
  return user
}

/** Broke: a new layer joined those edited together, and setting its amount set theirs. */
test('a new layer is edited alone, and its species is at hand the next time', async () => {
  const user = await opened()
  await user.click(screen.getByTestId('pick-thrift'))
  const command = run.mock.lastCall![0]
  if (command.do !== 'add_layer') throw new Error(command.do)
  const { layer: chosen, together } = useUi.getState()
  expect([chosen, together]).toEqual([command.layer.id, []])
  expect(command.layer).toMatchObject({ name: 'Thrifts', mix: [{ species: 'thrift' }] })
  expect(screen.queryByTestId('species-picker')).toBeNull()
  expect(lately()).toEqual(['thrift'])
})

test('a species is found by kind, or by words in any kind, and Enter takes the first', async () => {
  const user = await opened()
  await user.click(screen.getByText('Herbs'))
  expect(screen.queryByTestId('pick-marram')).toBeNull()
  await user.type(screen.getByTestId('pick-search'), 'dune')
  expect(screen.getByTestId('pick-marram')).toBeTruthy()
  expect(screen.queryByTestId('pick-thrift')).toBeNull()
  await user.keyboard('{Enter}')
  expect(run.mock.lastCall![0]).toMatchObject({ do: 'add_layer', layer: { mix: [{ species: 'marram' }] } })
})

test('several are gathered and become one mix in equal shares, or a layer each', async () => {
  const gather = async () => {
    const user = await opened()
    await user.keyboard('{Control>}')
    await user.click(screen.getByTestId('pick-fescue'))
    await user.click(screen.getByTestId('pick-marram'))
    await user.keyboard('{/Control}')
    expect(run).not.toHaveBeenCalled()
    return user
  }
  await (await gather()).click(screen.getByText('As one mix'))
  expect(run.mock.lastCall![0]).toMatchObject({
    do: 'add_layer', layer: { name: 'Fescues and marrams', mix: [{ species: 'fescue', share: 0.5 }, { species: 'marram', share: 0.5 }] },
  })
  run.mockClear()
  document.body.replaceChildren()
  await (await gather()).click(screen.getByText('As layers'))
  const command = run.mock.lastCall![0]
  if (command.do !== 'all') throw new Error(command.do)
  const layers = command.commands.flatMap((c) => (c.do === 'add_layer' ? [c.layer] : []))
  expect(layers.map((l) => l.name)).toEqual(['Fescues', 'Marrams'])
  expect(new Set([1, 2, ...layers.map((l) => l.id)]).size).toBe(4)
})
