// @vitest-environment happy-dom
import { act, fireEvent, screen } from '@testing-library/react'
import { expect, test, vi } from 'vitest'
import type { Run } from '../api/client'
import { sampleScene } from '../state/sample'
import { shownOver } from '../ui/shown'
import { leftOf } from './left'
import { RunFilm } from './RunFilm'

const frame = (nth: number, state: string, picture: string | null = null) => ({ nth, state, picture, seconds: null, progress: 0, message: null })

const run = (of: Partial<Run>): Run => ({
  id: 'r', shot_name: 'From the cove', seq: 1, width_px: 64, height_px: 36, samples: 1, first: 4, last: 8, frame_rate: 10,
  created_at: new Date().toISOString(), state: 'working', progress: 0.5, left_s: null, frames: [], ...of,
})

test('a run is played as it comes, its frames in their order', () => {
  vi.useFakeTimers()
  shownOver(sampleScene([]), <RunFilm run={run({ left_s: 400, frames: [frame(4, 'done', 'aa'), frame(5, 'done', 'bb'), frame(6, 'working'), frame(7, 'waiting')] })} />)
  const shown = () => screen.getByTestId('run-frame').getAttribute('src')
  expect(screen.getByText(/2 of 4, about 7 min left/)).toBeTruthy()
  expect(shown()).toBe('/api/blobs/aa')
  fireEvent.click(screen.getByLabelText('Play the run'))
  act(() => void vi.advanceTimersByTime(101))
  expect(shown()).toBe('/api/blobs/bb')
  act(() => void vi.advanceTimersByTime(100))
  expect(shown()).toBe('/api/blobs/aa')
  vi.useRealTimers()
  expect(screen.queryByLabelText('Take the missing frames')).toBeNull()
  expect(screen.getByLabelText('Stop this run')).toBeTruthy()
})

test('what is missing is said and can be taken; nothing can be kept before there is something', () => {
  shownOver(sampleScene([]), <RunFilm run={run({ state: 'stopped', frames: [frame(4, 'stopped'), frame(5, 'failed')] })} />)
  expect(screen.getByTestId('run-said').textContent).toContain('2 missing')
  expect(screen.getByLabelText('Take the missing frames')).toBeTruthy()
  expect(screen.queryByLabelText('Keep as numbered pictures')).toBeNull()
  expect([leftOf(0.2), leftOf(45), leftOf(600), leftOf(9000)]).toEqual(['about 1 s left', 'about 45 s left', 'about 10 min left', 'about 2.5 h left'])
})
