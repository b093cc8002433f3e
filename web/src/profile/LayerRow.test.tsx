// @vitest-environment happy-dom
import { screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { beforeEach, expect, test, vi } from 'vitest'
import type { Layer, Tally } from '../api/client'
import { queries } from '../state/data'
import { sampleLayer, sampleScene } from '../state/sample'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { shown } from '../ui/shown'
import { LayerRow } from './LayerRow'

const [editLayer, run] = [vi.fn(), vi.fn()]

beforeEach(() => vi.clearAllMocks())

function row(layer: Layer, tally?: Partial<Tally>) {
  const scene = sampleScene([layer])
  if (tally) {
    scene.layers[0].plants_key = 'grown'
    queries.setQueryData(['plants', layer.id, 'grown'], { count: tally.placed, tally: { asked: 100, candidates: 100, cap: layer.cap, refused: [], ...tally } })
  }
  useScene.setState({ scene, editLayer, run })
  const onNudge = vi.fn()
  shown(<LayerRow layer={layer} dropHere={false} onDragStart={() => undefined} onDrop={() => undefined} onNudge={onNudge} />)
  return { onNudge, user: userEvent.setup() }
}

test('a layer says how many stand; until it has grown it says nothing', () => {
  row(sampleLayer(3, 'Marram'))
  expect(screen.getByTestId('count-3').textContent).toBe('\u2026')
})

test('what a ceiling cut away is told', () => {
  row(sampleLayer(3, 'Marram'), { placed: 12_345, refused: [{ reason: { rule: 'cap' }, count: 5 }] } as Partial<Tally>)
  const count = screen.getByTestId('count-3')
  expect(count.textContent).toBe('12\u202f345')
  expect(count.className).toContain('text-iron')
})

test('a layer of which the ceiling leaves nothing says that it was cut', () => {
  row(sampleLayer(3, 'Marram'), { placed: 0, refused: [{ reason: { rule: 'cap' }, count: 5 }] } as Partial<Tally>)
  expect(screen.getByTestId('count-3').textContent).toBe('0 cut')
})

test('a click chooses it, and with Ctrl it is taken along with the chosen one and let go again', async () => {
  const { user } = row(sampleLayer(3, 'Marram'))
  useUi.setState({ layer: 1, together: [] })
  await user.keyboard('{Control>}')
  await user.click(screen.getByText('Marram'))
  expect(useUi.getState()).toMatchObject({ layer: 1, together: [3] })
  await user.click(screen.getByText('Marram'))
  expect(useUi.getState().together).toEqual([])
  await user.keyboard('{/Control}')
  await user.click(screen.getByText('Marram'))
  expect(useUi.getState()).toMatchObject({ layer: 3, together: [], station: 'planting' })
})

test('it is hidden, locked, moved and deleted by what is on it', async () => {
  const { user, onNudge } = row(sampleLayer(3, 'Marram'))
  await user.click(screen.getByLabelText('Hide Marram'))
  await user.click(screen.getByLabelText('Lock Marram'))
  expect(editLayer.mock.calls).toEqual([[3, { set: 'visible', value: false }], [3, { set: 'locked', value: true }]])
  screen.getByText('Marram').closest('button')!.focus()
  await user.keyboard('{Alt>}{ArrowUp}{ArrowDown}{/Alt}{Delete}')
  expect(onNudge.mock.calls).toEqual([[-1], [1]])
  expect(run.mock.calls).toEqual([[{ do: 'remove_layer', id: 3 }]])
})

test('a double click names it anew; Escape leaves the old name', async () => {
  const { user } = row(sampleLayer(3, 'Marram'))
  await user.dblClick(screen.getByText('Marram'))
  await user.keyboard('{Escape}')
  expect(editLayer).not.toHaveBeenCalled()
  await user.dblClick(screen.getByText('Marram'))
  await user.clear(screen.getByLabelText('Name of the layer'))
  await user.keyboard('Dune grass{Enter}')
  expect(editLayer.mock.calls).toEqual([[3, { set: 'name', value: 'Dune grass' }]])
})

test('a hidden one can be shown and a locked one unlocked', () => {
  row(sampleLayer(3, 'Marram', { visible: false, locked: true }))
  expect(screen.getByLabelText('Show Marram')).toBeTruthy()
  expect(screen.getByLabelText('Unlock Marram')).toBeTruthy()
  expect(screen.getByTestId('layer-3').getAttribute('draggable')).toBe('false')
})

test('arrows go from layer to layer, and Enter leads on to the sentence', async () => {
  const layers = [sampleLayer(3, 'Marram'), sampleLayer(4, 'Gorse')]
  useScene.setState({ scene: sampleScene(layers), editLayer, run })
  shown(
    <>
      <aside>
        {layers.map((l) => <LayerRow key={l.id} layer={l} dropHere={false} onDragStart={() => undefined} onDrop={() => undefined} onNudge={() => undefined} />)}
      </aside>
      <p data-testid="sentence">
        <button type="button">2.4 per m²</button>
      </p>
    </>,
  )
  const user = userEvent.setup()
  screen.getByText('Marram').closest('button')!.focus()
  await user.keyboard('{ArrowDown}{ArrowDown}')
  expect(document.activeElement?.textContent).toBe('Gorse')
  expect(useUi.getState()).toMatchObject({ layer: 4, together: [] })
  await user.keyboard('{Enter}')
  await vi.waitFor(() => expect(document.activeElement?.textContent).toBe('2.4 per m²'))
})
