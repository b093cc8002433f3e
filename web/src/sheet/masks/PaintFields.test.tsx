// @vitest-environment happy-dom
import { screen } from '@testing-library/react'
import { beforeEach, expect, test, vi } from 'vitest'
import type { Layer } from '../../api/client'
import { sampleLayer, sampleScene } from '../../state/sample'
import { useUi } from '../../state/ui'
import { shownOver } from '../../ui/shown'
import { PaintFields } from './PaintFields'

const [run, onChoose] = [vi.fn(), vi.fn()]
beforeEach(() => vi.clearAllMocks())

const mask = { id: 1, quantity: 'painted', paint: 5, enabled: true, response: { start: 0, full_from: 1, full_to: 1, end: 1, inverted: false } }
const painted = (id: number, name: string, part: Partial<Layer> = {}) => sampleLayer(id, name, { masks: [mask] as unknown as Layer['masks'], ...part })
const stroke = { id: 1, tool: 'add', radius_m: 2, strength: 1, falloff: 0.5, points: [[0, 0, 0]] }
const paint = { id: 5, name: 'Turf', bare: 0, strokes: [stroke] }

function fields(layer: Layer, others: Layer[] = []) {
  const scene = sampleScene([layer, ...others])
  Object.assign(scene.document, { paints: [paint, { ...paint, id: 6, name: 'Paths' }] })
  return shownOver(scene, <PaintFields layer={layer} paint={5} onChoose={onChoose} />, { run })
}

test('the brush is taken up for this painting, made finer, and put down', async () => {
  const user = fields(painted(1, 'Thrift'))
  await user.click(screen.getByText('Erase'))
  expect(useUi.getState().painting).toMatchObject({ paint: 5, tool: 'erase' })
  await user.click(screen.getByTestId('paint-radius'))
  await user.keyboard('0.25{Enter}')
  expect(useUi.getState().painting).toMatchObject({ paint: 5, tool: 'erase', radius_m: 0.25 })
  await user.click(screen.getByText('Put the brush down'))
  expect(useUi.getState().painting).toBeNull()
})

test('it is begun anew, and where nothing is painted all or none may grow', async () => {
  const user = fields(painted(1, 'Thrift'))
  expect(screen.getByTestId('paint-strokes').textContent).toBe('1 stroke.')
  await user.click(screen.getByText('Start anew'))
  expect(run.mock.lastCall![0]).toEqual({ do: 'put_paint', value: { ...paint, strokes: [] } })
  await user.click(screen.getByText('All'))
  expect(run.mock.lastCall![0]).toEqual({ do: 'put_paint', value: { ...paint, bare: 1 } })
  await user.selectOptions(screen.getByTestId('mask-paint'), 'Paths')
  expect(onChoose).toHaveBeenCalledWith(6)
})

test('one that others look at too is parted from them as a copy', async () => {
  const user = fields(painted(1, 'Thrift'), [painted(2, 'Gorse')])
  expect(screen.getByTestId('paint-fields').textContent).toContain('Shared with Gorse')
  await user.click(screen.getByText('Use a copy for this layer alone'))
  const [copy, edit] = run.mock.lastCall![0].commands
  expect([5, 6]).not.toContain(copy.value.id)
  expect(copy.value).toMatchObject({ name: 'Thrift, painted', strokes: [stroke] })
  expect(edit.edit.value).toEqual([{ ...mask, paint: copy.value.id }])
})

/** Broke: that of a locked layer could be begun anew and parted, and the server said no. */
test('that of a locked layer takes nothing', async () => {
  const user = fields(painted(1, 'Thrift', { locked: true }), [painted(2, 'Gorse')])
  await user.click(screen.getByText('Start anew'))
  await user.click(screen.getByText('Use a copy for this layer alone'))
  await user.click(screen.getByText('All'))
  await user.click(screen.getByText('Erase'))
  expect(run).not.toHaveBeenCalled()
  expect(useUi.getState().painting).toBeNull()
})
