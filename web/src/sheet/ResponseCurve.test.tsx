// @vitest-environment happy-dom
import { fireEvent, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { useState } from 'react'
import { expect, test, vi } from 'vitest'
import type { Response } from '../api/client'
import { shown } from '../ui/shown'
import { ResponseCurve } from './ResponseCurve'

const histogram = { low: 0, high: 90, areas_m2: [40, 30, 20, 5, 0, 0] }
const response: Response = { start: 0, full_from: 10, full_to: 27, end: 38, inverted: false }

function curve(onChange: (r: Response, gesture?: string) => void, disabled = false) {
  function Kept() {
    const [value, setValue] = useState(response)
    return (
      <ResponseCurve
        name="Slope" unit="°" digits={0} histogram={histogram} response={value} disabled={disabled} onHold={() => undefined}
        onChange={(r, gesture) => {
          setValue(r)
          onChange(r, gesture)
        }}
      />
    )
  }
  shown(<Kept />)
}

test('each end is a slider that tells its value', () => {
  curve(() => undefined)
  const ends = screen.getAllByRole('slider')
  expect(ends.map((e) => e.getAttribute('aria-label'))).toEqual(['Slope: starts at', 'Slope: full from', 'Slope: full to', 'Slope: ends at'])
  expect(ends.map((e) => e.getAttribute('aria-valuenow'))).toEqual(['0', '10', '27', '38'])
})

test('an arrow moves an end by a ninetieth of what is shown, finer with Shift; the others give way', async () => {
  const onChange = vi.fn()
  curve(onChange)
  const user = userEvent.setup()
  screen.getByTestId('end-full_to').focus()
  await user.keyboard('{ArrowRight}')
  expect(onChange.mock.lastCall![0]).toEqual({ ...response, full_to: 28 })
  await user.keyboard('{Shift>}{ArrowLeft}{/Shift}')
  expect(onChange.mock.lastCall![0].full_to).toBeCloseTo(27.9)
  await user.keyboard('{ArrowRight>15/}')
  const pushed = onChange.mock.lastCall![0]
  expect(pushed.full_to).toBeGreaterThan(38)
  expect(pushed.end).toBe(pushed.full_to)
})

test('a drag shows at once, is one gesture and stays within what is shown', () => {
  const onChange = vi.fn()
  curve(onChange)
  const svg = screen.getByTestId('curve')
  svg.getBoundingClientRect = () => ({ left: 0, width: 276, top: 0, height: 58 }) as DOMRect
  const end = screen.getByTestId('end-end')
  ;(end as unknown as { setPointerCapture(): void }).setPointerCapture = vi.fn()
  fireEvent.pointerDown(end, { button: 0, clientX: 118 })
  fireEvent.pointerMove(end, { clientX: 138 })
  expect(end.getAttribute('aria-valuenow')).toBe('45')
  fireEvent.pointerMove(end, { clientX: 4000 })
  expect(onChange.mock.lastCall![0].end).toBe(90)
  fireEvent.pointerUp(end, { clientX: 4000 })
  fireEvent.pointerMove(end, { clientX: 100 })
  expect(onChange).toHaveBeenCalledTimes(2)
  expect(new Set(onChange.mock.calls.map((c) => c[1])).size).toBe(1)
})

test('a locked curve does not move', async () => {
  const onChange = vi.fn()
  curve(onChange, true)
  const end = screen.getByTestId('end-end')
  fireEvent.pointerDown(end, { button: 0, clientX: 118 })
  fireEvent.pointerMove(end, { clientX: 138 })
  fireEvent.keyDown(end, { key: 'ArrowRight' })
  expect(onChange).not.toHaveBeenCalled()
})

/** Broke: of a distance to what is nowhere every bar was NaN high, an error each in the console. */
test('of what lies nowhere on the ground the bars have no height', () => {
  const empty = { low: 0, high: 20, areas_m2: [0, 0, 0] }
  shown(<ResponseCurve name="Distance" unit="m" digits={1} histogram={empty} response={response} onHold={() => undefined} onChange={() => undefined} />)
  const heights = [...screen.getByTestId('curve').querySelectorAll('rect')].map((bar) => bar.getAttribute('height'))
  expect(heights).toEqual(['0', '0', '0'])
})
