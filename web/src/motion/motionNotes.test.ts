// @vitest-environment happy-dom
import { expect, test, vi } from 'vitest'
import { sampleLayer } from '../state/sample'
import { useScene } from '../state/scene'
import { motionNotes } from './motionNotes'

test('what is pressed flat can take less of the wind, and what is held can take it', () => {
  const editLayer = vi.fn()
  useScene.setState({ editLayer })
  const layer = sampleLayer(3, 'Marram')
  const [flat] = motionNotes([{ what: 'pressed_flat', layer: 3, species: 'marram', lean_deg: 71.4, most_deg: 80.2, share: 0.416 }], [layer], [])
  expect(flat.text).toBe('Marram: the mean wind presses plants flat (71° of 80°), so that gusts hardly move it.')
  expect(flat.fix!.name).toBe('Take 41 % of the wind')
  flat.fix!.run()
  expect(editLayer).toHaveBeenLastCalledWith(3, { set: 'wind_share', value: 0.41 })
  const [nothing] = motionNotes([{ what: 'reaches_nothing', held: [3, 4] }], [layer], [])
  nothing.fix!.run()
  expect(editLayer.mock.calls.slice(1).map((c) => c.slice(0, 2))).toEqual([[3, { set: 'wind_share', value: 1 }], [4, { set: 'wind_share', value: 1 }]])
  expect(motionNotes([{ what: 'reaches_nothing', held: [] }], [layer], [])[0].fix).toBeUndefined()
  expect(motionNotes([{ what: 'pressed_flat', layer: 9, species: 'x', lean_deg: 1, most_deg: 2, share: 0.1 }], [layer], [])).toEqual([])
})
