// @vitest-environment happy-dom
import { screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { useState } from 'react'
import { expect, test, vi } from 'vitest'
import { shown } from '../ui/shown'
import { SeasonSlider } from './SeasonSlider'

function Kept({ onChange }: { onChange(value: number, gesture?: string): void }) {
  const [value, setValue] = useState(1)
  return (
    <SeasonSlider
      label="Season of the scene"
      value={value}
      onChange={(v, gesture) => {
        setValue(v)
        onChange(v, gesture)
      }}
    />
  )
}

/** Broke: each press of a key was a step to undo. */
test('what the keys set in a row is undone as one', async () => {
  const onChange = vi.fn()
  shown(<Kept onChange={onChange} />)
  const user = userEvent.setup()
  await user.tab()
  expect(document.activeElement).toBe(screen.getByRole('slider'))
  await user.keyboard('{ArrowRight}{ArrowRight}{ArrowRight}')
  expect(onChange.mock.calls.map((c) => c[0])).toEqual([1.05, 1.1, 1.15])
  const gestures = new Set(onChange.mock.calls.map((c) => c[1]))
  expect(gestures.size).toBe(1)
  expect([...gestures][0]).toBeTruthy()
})
