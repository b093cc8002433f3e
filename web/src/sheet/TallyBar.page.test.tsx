// @vitest-environment happy-dom
import { screen, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { expect, test, vi } from 'vitest'
import type { Tally } from '../api/client'
import { sampleLayer, sampleScene } from '../state/sample'
import { useScene } from '../state/scene'
import { shown } from '../ui/shown'
import { TallyBar } from './TallyBar'

const tally = (part: Partial<Tally>) => ({ asked: 1000, placed: 700, candidates: 1400, cap: 1_000_000, refused: [], ...part }) as unknown as Tally

function bar(part: Partial<Tally>, byChance = false) {
  const run = vi.fn()
  const scene = sampleScene([sampleLayer(1, 'Marram'), sampleLayer(2, 'Gorse')])
  Object.assign(scene.layers[0], { yields_to: [2], claims_at: 5 })
  useScene.setState({ scene, run })
  shown(<TallyBar of={1} tally={tally(part)} byChance={byChance} />)
  return run
}

test('asked, placed and each refusal are counted by name, and what refused none is left out', () => {
  bar({ refused: [
    { reason: { rule: 'mask', id: 1, quantity: 'slope' }, count: 500 }, { reason: { rule: 'own_kind' }, count: 200 }, { reason: { rule: 'edge' }, count: 0 },
  ] })
  const words = screen.getByTestId('tally').textContent!
  expect(words).toContain('1\u202f000 asked for, 700 placed; 1\u202f400 places looked at')
  expect(words).toContain('refused: slope 500')
  expect(words).toContain('refused: too near its own kind 200')
  expect(words).not.toContain('edge')
})

test('chance is blamed for a difference only where nothing else is', () => {
  bar({}, true)
  expect(screen.getByTestId('tally').textContent).toContain('Places at random fall unevenly')
})

test('a ceiling that cut plants is not put down to chance', () => {
  bar({ refused: [{ reason: { rule: 'cap' }, count: 300 }] }, true)
  expect(screen.getByTestId('tally').textContent).not.toContain('at random')
  expect(screen.getByTestId('tally').textContent).toContain('refused: over the ceiling 300')
})

test('where another layer refused them it is named, and who gives way to whom can be turned round there', async () => {
  const run = bar({ refused: [{ reason: { rule: 'layer', id: 2 }, count: 42 }] })
  const list = screen.getByTestId('refused-by-layers')
  expect(list.textContent).toContain('too near Gorse')
  const select = within(list).getByRole<HTMLSelectElement>('combobox')
  expect(select.value).toBe('yields')
  await userEvent.setup().selectOptions(select, 'claims')
  expect(run).toHaveBeenCalledOnce()
  expect(run.mock.lastCall).toEqual([{ do: 'put_yield', value: { layer: 2, to: 1, yields: true } }])
})
