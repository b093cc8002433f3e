// @vitest-environment happy-dom
import { screen } from '@testing-library/react'
import { beforeEach, expect, test, vi } from 'vitest'
import type { Layer } from '../../api/client'
import { queries } from '../../state/data'
import { sampleLayer, sampleScene } from '../../state/sample'
import { useUi } from '../../state/ui'
import { shownOver } from '../../ui/shown'
import { MaskCard } from './MaskCard'

const editLayer = vi.fn()

beforeEach(() => vi.clearAllMocks())

function card(layer: Layer, share?: number) {
  const scene = sampleScene([layer])
  if (share !== undefined) {
    scene.layers[0].plants_key = 'grown'
    queries.setQueryData(['plants', layer.id, 'grown'], { count: 9, tally: { mask_shares: [share] } })
  }
  return shownOver(scene, <MaskCard layer={layer} mask={layer.masks[0]} />, { editLayer })
}

const layer = sampleLayer(2, 'Marram')
const [mask] = layer.masks

test('a mask says how much of the ground it lets through', () => {
  card(layer, 0.043)
  expect(screen.getByTestId('share').textContent).toBe('lets through 4.3 %')
})

test('an end that is typed pushes the others so that they never fall', async () => {
  const user = card(layer)
  await user.click(screen.getByTestId('mask-slope-full_from'))
  await user.keyboard('45{Enter}')
  const response = { start: 0, full_from: 45, full_to: 45, end: 45, inverted: false }
  expect(editLayer.mock.calls).toEqual([[2, { set: 'mask', value: { ...mask, response } }, undefined]])
})

test('it is turned over, switched off, shown on the ground and taken out', async () => {
  const user = card(layer)
  await user.click(screen.getByLabelText('Slope: invert'))
  expect(editLayer.mock.lastCall).toEqual([2, { set: 'mask', value: { ...mask, response: { ...mask.response, inverted: true } } }, undefined])
  await user.click(screen.getByLabelText('Slope mask'))
  expect(editLayer.mock.lastCall).toEqual([2, { set: 'mask', value: { ...mask, enabled: false } }])
  await user.click(screen.getByLabelText('Slope: show it on the ground'))
  expect(useUi.getState().maskShown).toEqual({ layer: 2, mask: 1, pinned: true })
  await user.click(screen.getByLabelText('Slope: take it off the ground'))
  expect(useUi.getState().maskShown).toBeNull()
  await user.click(screen.getByLabelText('Remove slope mask'))
  expect(editLayer.mock.lastCall).toEqual([2, { set: 'masks', value: [] }])
})

test('that of a locked layer takes nothing', async () => {
  const user = card(sampleLayer(2, 'Marram', { locked: true }))
  await user.click(screen.getByLabelText('Slope: invert'))
  await user.click(screen.getByLabelText('Slope mask'))
  await user.click(screen.getByLabelText('Remove slope mask'))
  expect(editLayer).not.toHaveBeenCalled()
  expect(screen.getByTestId<HTMLInputElement>('mask-slope-end').disabled).toBe(true)
})
