// @vitest-environment happy-dom
import { act, screen } from '@testing-library/react'
import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { queries } from '../state/data'
import { sampleLayer, sampleScene } from '../state/sample'
import { shownOver } from '../ui/shown'
import { Growing } from './Growing'

beforeEach(() => void vi.useFakeTimers({ shouldAdvanceTime: true }))
afterEach(() => void vi.useRealTimers())

test('what takes longer than a blink is told by name, with its seconds, until it is there', async () => {
  shownOver(sampleScene([sampleLayer(1, 'Marram'), sampleLayer(2, 'Gorse')]), <Growing />)
  let done: (value: number) => void = () => undefined
  const grown = queries.fetchQuery({ queryKey: ['plants', 2, 'key'], queryFn: () => new Promise<number>((resolve) => (done = resolve)) })
  await act(() => vi.advanceTimersByTimeAsync(100))
  expect(screen.queryByTestId('growing')).toBeNull()
  await act(() => vi.advanceTimersByTimeAsync(600))
  expect(screen.getByTestId('growing').textContent).toContain('Growing Gorse')
  await act(() => vi.advanceTimersByTimeAsync(2500))
  expect(screen.getByTestId('growing').textContent).toMatch(/ · [23] s/)
  await act(async () => {
    done(1)
    await grown
    await vi.advanceTimersByTimeAsync(50)
  })
  expect(screen.queryByTestId('growing')).toBeNull()
})
