// @vitest-environment happy-dom
import { fireEvent, screen } from '@testing-library/react'
import { beforeEach, expect, test, vi } from 'vitest'
import { useClock } from '../state/clock'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { shown } from '../ui/shown'
import { useKeys } from './useKeys'

const [undo, redo] = [vi.fn(), vi.fn()]
const first = useUi.getState()

beforeEach(() => {
  vi.clearAllMocks()
  useUi.setState(first, true)
  useScene.setState({ undo, redo })
})

function Page() {
  useKeys()
  return (
    <>
      <input aria-label="field" />
      <input aria-label="number that was taken" data-settled="true" />
      <input type="range" aria-label="slider" />
      <button type="button">button</button>
    </>
  )
}

test('undo and redo by their usual keys', () => {
  shown(<Page />)
  fireEvent.keyDown(document.body, { key: 'z', ctrlKey: true })
  fireEvent.keyDown(document.body, { key: 'Z', ctrlKey: true, shiftKey: true })
  fireEvent.keyDown(document.body, { key: 'y', metaKey: true })
  expect([undo.mock.calls.length, redo.mock.calls.length]).toEqual([1, 2])
})

test('numbers go to the stations, letters change the view', () => {
  shown(<Page />)
  fireEvent.keyDown(document.body, { key: '2' })
  expect(useUi.getState().station).toBe('nursery')
  const before = useUi.getState()
  fireEvent.keyDown(document.body, { key: 'p' })
  fireEvent.keyDown(document.body, { key: 'c' })
  expect(useUi.getState().mode).not.toBe(before.mode)
  expect(useUi.getState().contours).toBe(!before.contours)
})

test('in a field keys are letters, but for the search', () => {
  const { getByLabelText } = shown(<Page />)
  const before = useUi.getState().station
  fireEvent.keyDown(getByLabelText('field'), { key: '3' })
  fireEvent.keyDown(getByLabelText('field'), { key: 'z', ctrlKey: true })
  expect(useUi.getState().station).toBe(before)
  expect(undo).not.toHaveBeenCalled()
  fireEvent.keyDown(getByLabelText('field'), { key: 'k', ctrlKey: true })
  expect(useUi.getState().searching).toBe(true)
})

test('in a number whose value was taken undo is that of the scene, and digits are still digits', () => {
  const { getByLabelText } = shown(<Page />)
  const before = useUi.getState().station
  fireEvent.keyDown(getByLabelText('number that was taken'), { key: 'z', ctrlKey: true })
  fireEvent.keyDown(getByLabelText('number that was taken'), { key: '3' })
  expect(undo).toHaveBeenCalledTimes(1)
  expect(useUi.getState().station).toBe(before)
})

test('a brush grows and shrinks within its bounds and is laid down by Escape', () => {
  shown(<Page />)
  useUi.setState({ painting: { radius_m: 900 } as never })
  fireEvent.keyDown(document.body, { key: '+' })
  expect(useUi.getState().painting!.radius_m).toBe(1000)
  for (let i = 0; i < 80; i++) fireEvent.keyDown(document.body, { key: '-' })
  expect(useUi.getState().painting!.radius_m).toBe(0.02)
  fireEvent.keyDown(document.body, { key: 'Escape' })
  expect(useUi.getState().painting).toBeNull()
})

test('a page that is left listens no more', () => {
  shown(<Page />).unmount()
  fireEvent.keyDown(document.body, { key: 'z', ctrlKey: true })
  expect(undo).not.toHaveBeenCalled()
})

test('at Motion space plays and pauses, also from the slider, but not on a button, which it presses', () => {
  useClock.setState({ playing: false })
  shown(<Page />)
  fireEvent.keyDown(screen.getByLabelText('slider'), { key: '4' })
  expect(useUi.getState().station).toBe('motion')
  fireEvent.keyDown(screen.getByLabelText('slider'), { key: ' ' })
  expect(useClock.getState().playing).toBe(true)
  fireEvent.keyDown(document.body, { key: ' ' })
  expect(useClock.getState().playing).toBe(false)
  fireEvent.keyDown(screen.getByText('button'), { key: ' ' })
  expect(useClock.getState().playing).toBe(false)
  fireEvent.keyDown(document.body, { key: '3' })
  fireEvent.keyDown(document.body, { key: ' ' })
  expect(useClock.getState().playing).toBe(false)
})
