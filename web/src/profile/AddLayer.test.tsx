// @vitest-environment happy-dom
import { screen } from '@testing-library/react'
import { expect, test, vi } from 'vitest'
import { queries } from '../state/data'
import { sampleLayer, sampleScene } from '../state/sample'
import { useUi } from '../state/ui'
import { shownOver } from '../ui/shown'
import { AddLayer } from './AddLayer'

/** Broke: a new layer joined those edited together, and setting its amount set theirs. */
test('a new layer is edited alone', async () => {
  const run = vi.fn()
  const scene = sampleScene([sampleLayer(1, 'Marram'), sampleLayer(2, 'Gorse')])
  queries.setQueryData(['nursery', scene.id, JSON.stringify([undefined, undefined])], {
    species: [{ id: 'thrift', name: 'Thrift', plural: 'Thrift', kind: 'herb', height_m: 0.2, radius_m: 0.1, usual: {} }], settings: {},
  })
  useUi.setState({ layer: 1, together: [2] })
  const user = shownOver(scene, <AddLayer />, { run })
  await user.click(screen.getByText('Add layer'))
  await user.click(screen.getByRole('menuitem', { name: /Thrift/ }))
  const { layer } = run.mock.lastCall![0]
  const { layer: chosen, together } = useUi.getState()
  expect([chosen, together]).toEqual([layer.id, []])
})
