// @vitest-environment happy-dom
import { act, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { useScene } from '../state/scene'
import type { Undecided } from '../state/commander'
import { shown } from '../ui/shown'
import { ConflictCard } from './ConflictCard'
import { Refusal } from './Refusal'
import { Saved } from './Saved'

const first = useScene.getState()
beforeEach(() => useScene.setState(first, true))
afterEach(() => vi.useRealTimers())

test('what was refused is told with what became of it, until dismissed', async () => {
  const { container } = shown(<Refusal />)
  expect(container.textContent).toBe('')
  act(() => useScene.setState({ refusal: 'spacing must be at least 0.1 m' }))
  expect(screen.getByRole('alert').textContent).toBe('Not done; nothing was changed. Spacing must be at least 0.1 m.')
  await userEvent.setup().click(screen.getByLabelText('Dismiss'))
  expect(container.textContent).toBe('')
})

test('what failed without being a change does not speak of changes', () => {
  useScene.setState({ failure: 'the picture did not come' })
  shown(<Refusal />)
  expect(screen.getByRole('alert').textContent).toBe('The picture did not come.')
})

test('how much is not saved, and for how long, is counted on', () => {
  vi.useFakeTimers({ now: 100_000 })
  useScene.setState({ saving: { state: 'saved', waiting: 0, since: 0 } })
  shown(<Saved />)
  const words = () => screen.getByRole('status').textContent
  expect(words()).toBe('Saved')
  act(() => useScene.setState({ saving: { state: 'saving', waiting: 1, since: 100_000 } }))
  // Most are saved before one could read a number.
  expect(words()).toBe('Saving')
  act(() => vi.advanceTimersByTime(3000))
  expect(words()).toBe('Saving \u00b7 1 \u00b7 3 s')
  act(() => useScene.setState({ saving: { state: 'away', waiting: 4, since: 100_000, why: 'the server does not answer' } }))
  act(() => vi.advanceTimersByTime(120_000))
  expect(words()).toBe('Not saved \u00b7 4 \u00b7 2 min')
})

test('both values of a conflict are shown, and the choice is told', async () => {
  const decide = vi.fn()
  const conflict = (id: string) => ({ id, conflict: { setting: 'Spacing', author: 'Wren', theirs_in_words: '2 m', yours_in_words: '3 m' } }) as unknown as Undecided
  useScene.setState({ undecided: [conflict('a'), conflict('b')], decide })
  shown(<ConflictCard />)
  const card = screen.getByTestId('conflict')
  expect(card.textContent).toContain('Wren changed this while you did')
  expect(card.textContent).toMatch(/Theirs2 mYours3 m/)
  expect(card.textContent).toContain('and 1 more')
  const user = userEvent.setup()
  await user.click(screen.getByText('Use mine'))
  await user.click(screen.getByText('Keep theirs'))
  expect(decide.mock.calls).toEqual([['a', true], ['a', false]])
})
