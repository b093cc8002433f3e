// @vitest-environment happy-dom
import { fireEvent, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { useState } from 'react'
import { expect, test, vi } from 'vitest'
import { NumberField, type NumberFieldProps } from './NumberField'
import { RangeField } from './RangeField'
import { TextField } from './TextField'
import { shown } from './shown'

/** A field that keeps what it is given, as the scene does. */
function Kept({ onChange, value: first, ...rest }: NumberFieldProps) {
  const [value, setValue] = useState(first)
  return (
    <NumberField
      {...rest}
      value={value}
      onChange={(v, gesture) => {
        setValue(v)
        onChange(v, gesture)
      }}
    />
  )
}

const spacing = { label: 'Spacing', value: 2, min: 0.1, max: 50, step: 0.5, unit: 'm' }

async function typed(text: string) {
  const onChange = vi.fn()
  shown(<Kept {...spacing} onChange={onChange} />)
  const user = userEvent.setup()
  const field = screen.getByLabelText<HTMLInputElement>('Spacing')
  await user.click(field)
  await user.keyboard(text)
  return { onChange, field, user }
}

test('what is typed replaces what was there, and is taken at Enter', async () => {
  const { onChange, field } = await typed('7.25{Enter}')
  expect(onChange.mock.calls).toEqual([[7.25, undefined]])
  expect(field.value).toBe('7.25')
})

test('sums and other units are reckoned', async () => {
  const { onChange } = await typed('1.5 + 30 cm{Enter}')
  expect(onChange).toHaveBeenCalledWith(1.8, undefined)
})

test('a value out of range is held at its end, and said so', async () => {
  const { onChange, field, user } = await typed('60 * 3{Enter}')
  expect(onChange).toHaveBeenCalledWith(50, undefined)
  expect(field.getAttribute('aria-invalid')).toBe('true')
  expect(screen.getByRole('status').textContent).toBe('The most is 50 m')
  await user.keyboard('0.01{Enter}')
  expect(screen.getByRole('status').textContent).toBe('The least is 0.1 m')
  await user.keyboard('4')
  expect(screen.queryByRole('status')).toBeNull()
})

test('the field stays in hand after Enter and Escape, and the next digits replace what it holds', async () => {
  const { onChange, field, user } = await typed('7{Enter}')
  expect(document.activeElement).toBe(field)
  expect(field.dataset.settled).toBe('true')
  await user.keyboard('31')
  expect(field.dataset.settled).toBe('false')
  await user.keyboard('{Escape}')
  expect(document.activeElement).toBe(field)
  expect(field.value).toBe('7')
  await user.keyboard('12{Enter}{Escape}')
  expect(document.activeElement).not.toBe(field)
  expect(onChange.mock.calls.map((c) => c[0])).toEqual([7, 12])
})

test('what is no number changes nothing and is marked', async () => {
  const { onChange, field } = await typed('wide{Enter}')
  expect(onChange).not.toHaveBeenCalled()
  expect(field.getAttribute('aria-invalid')).toBe('true')
  expect(field.value).toBe('2')
  expect(screen.getByRole('status').textContent).toBe('\u201cwide\u201d is no number')
})

test('Escape drops what was typed', async () => {
  const { onChange, field } = await typed('9{Escape}')
  expect(onChange).not.toHaveBeenCalled()
  expect(field.value).toBe('2')
})

test('arrows step, finer with Shift, as one gesture, and stop at the ends', async () => {
  const { onChange, user } = await typed('{ArrowUp}{ArrowUp}')
  await user.keyboard('{Shift>}{ArrowDown}{/Shift}')
  expect(onChange.mock.calls.map((c) => c[0])).toEqual([2.5, 3, 2.95])
  expect(new Set(onChange.mock.calls.map((c) => c[1])).size).toBe(1)
  await user.keyboard('{ArrowDown>20/}')
  expect(onChange.mock.lastCall![0]).toBe(0.1)
})

test('a field that is locked takes nothing', async () => {
  const onChange = vi.fn()
  shown(<NumberField {...spacing} disabled fallback={1} onChange={onChange} />)
  fireEvent.doubleClick(screen.getByLabelText('Spacing').parentElement!)
  expect(screen.getByLabelText<HTMLInputElement>('Spacing').disabled).toBe(true)
  expect(onChange).not.toHaveBeenCalled()
})

test('a double click brings the usual value back', () => {
  const onChange = vi.fn()
  shown(<NumberField {...spacing} fallback={1} onChange={onChange} />)
  fireEvent.doubleClick(screen.getByLabelText('Spacing').parentElement!)
  expect(onChange).toHaveBeenCalledWith(1)
})

test('a drag is one gesture and is told in steps', () => {
  const onChange = vi.fn()
  shown(<Kept {...spacing} onChange={onChange} />)
  const field = screen.getByLabelText('Spacing').parentElement!
  field.setPointerCapture = vi.fn()
  fireEvent.pointerDown(field, { clientX: 100, button: 0 })
  fireEvent.pointerMove(field, { clientX: 101 })
  fireEvent.pointerMove(field, { clientX: 112 })
  fireEvent.pointerMove(field, { clientX: 124 })
  fireEvent.pointerUp(field, { clientX: 124 })
  expect(onChange.mock.calls.map((c) => c[0])).toEqual([4, 6])
  expect(new Set(onChange.mock.calls.map((c) => c[1])).size).toBe(1)
})

/** Broke: a field that stayed in hand after Enter could not be dragged any more. */
test('a field whose value was taken is dragged, and a click writes in it again', async () => {
  const { onChange, field, user } = await typed('7{Enter}')
  const around = field.parentElement!
  around.setPointerCapture = vi.fn()
  fireEvent.pointerDown(around, { clientX: 100, button: 0 })
  fireEvent.pointerMove(around, { clientX: 112 })
  fireEvent.pointerUp(around, { clientX: 112 })
  expect(onChange.mock.calls.map((c) => c[0])).toEqual([7, 9])
  fireEvent.pointerDown(around, { clientX: 100, button: 0 })
  fireEvent.pointerUp(around, { clientX: 100 })
  expect(field.dataset.settled).toBe('false')
  await user.keyboard('3{Enter}')
  expect(onChange.mock.lastCall![0]).toBe(3)
})

test('one end of a range pushes the other along', async () => {
  const onChange = vi.fn()
  shown(<RangeField label="Size" value={{ min: 0.5, max: 1.5 }} min={0} max={4} step={0.1} onChange={onChange} />)
  const user = userEvent.setup()
  await user.click(screen.getByLabelText('Size, from'))
  await user.keyboard('2{Enter}')
  expect(onChange.mock.lastCall![0]).toEqual({ min: 2, max: 2 })
  await user.click(screen.getByLabelText('Size, to'))
  await user.keyboard('0.2{Enter}')
  expect(onChange.mock.lastCall![0]).toEqual({ min: 0.2, max: 0.2 })
})

test('a name is taken trimmed at Enter; an empty one and Escape leave the old', async () => {
  const onCommit = vi.fn()
  shown(<TextField label="Name" value="Marram" onCommit={onCommit} />)
  const user = userEvent.setup()
  const field = screen.getByLabelText<HTMLInputElement>('Name')
  await user.clear(field)
  await user.type(field, '  Dune grass {Enter}')
  expect(onCommit.mock.calls).toEqual([['Dune grass']])
  await user.clear(field)
  await user.type(field, '{Enter}')
  await user.type(field, 'Other{Escape}')
  expect(onCommit).toHaveBeenCalledTimes(1)
  expect(field.value).toBe('Marram')
})
