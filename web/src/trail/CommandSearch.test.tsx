// @vitest-environment happy-dom
import { screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { beforeEach, expect, test, vi } from 'vitest'
import { sampleLayer, sampleScene } from '../state/sample'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { shown } from '../ui/shown'
import { CommandSearch } from './CommandSearch'

const [undo, run] = [vi.fn(), vi.fn()]

beforeEach(() => {
  vi.clearAllMocks()
  useScene.setState({ scene: sampleScene([sampleLayer(4, 'Marram')]), undo, run })
  useUi.setState({ searching: true, layer: 4, station: 'site' })
})

async function sought(text: string) {
  shown(<CommandSearch />)
  const user = userEvent.setup()
  await user.type(screen.getByRole('combobox'), text)
  return { user, names: () => screen.queryAllByRole('option').map((o) => o.firstChild!.textContent) }
}

test('a command is found by other words than its name, in any order, and done by Enter', async () => {
  const { user, names } = await sought('back take')
  expect(names()).toEqual(['Undo'])
  await user.keyboard('{Enter}')
  expect(undo).toHaveBeenCalledOnce()
  expect(useUi.getState().searching).toBe(false)
})

test('arrows choose among those found', async () => {
  const { user } = await sought('go to')
  await user.keyboard('{ArrowDown}{ArrowDown}{ArrowUp}{Enter}')
  expect(useUi.getState().station).toBe('nursery')
})

test('what concerns the chosen layer names it', async () => {
  const { user, names } = await sought('delete')
  expect(names()).toEqual(['Delete \u201cMarram\u201d'])
  await user.click(screen.getByRole('option'))
  expect(run.mock.calls).toEqual([[{ do: 'remove_layer', id: 4 }]])
})

test('where nothing is found that is said, and Enter does nothing', async () => {
  const { user, names } = await sought('teapot')
  expect(names()).toEqual([])
  expect(screen.getByText(/No command has these words/)).toBeTruthy()
  await user.keyboard('{Enter}')
  expect([undo.mock.calls, run.mock.calls]).toEqual([[], []])
})

test.each([
  ['fold the sheet', { folded: { profile: false, sheet: true } }],
  ['draw all boxes', { allAs: 'box' }],
  ['shortcuts', { keys: true }],
])('%s is found and done', async (words, becomes) => {
  useUi.setState({ folded: { profile: false, sheet: false } })
  const { user } = await sought(words)
  await user.keyboard('{Enter}')
  expect(useUi.getState()).toMatchObject(becomes)
})
