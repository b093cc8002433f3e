// @vitest-environment happy-dom
import { screen } from '@testing-library/react'
import { expect, test } from 'vitest'
import { sampleScene } from '../state/sample'
import { useUi } from '../state/ui'
import { shownOver } from '../ui/shown'
import { Legend } from './Legend'
import type { Laid } from './useOverlay'

const laid: Laid = {
  title: 'Slope', unit: '°', low: 0, high: 90, scale: 'rising', histogram: { low: 0, high: 90, areas_m2: [4, 0, 1] }, over: new Map([[0, new Float32Array(4)]]),
}

test('where nothing is read there is no legend', () => {
  shownOver(sampleScene([]), <Legend laid={null} />)
  expect(screen.queryByTestId('legend')).toBeNull()
})

test('it says what lies over the ground, in which unit, and how much of it there is', () => {
  useUi.setState({ reading: 'slope' })
  shownOver(sampleScene([]), <Legend laid={laid} />)
  const legend = screen.getByLabelText('Legend: Slope')
  expect(legend.textContent).toContain('Slope °')
  const bars = [...legend.querySelectorAll('rect')].map((bar) => Number(bar.getAttribute('height')))
  expect(bars).toHaveLength(3)
  expect([bars[0] / bars[2], bars[1]]).toEqual([2, 0])
})

test('it is taken off the ground, and plants are shown with it where that is wanted', async () => {
  useUi.setState({ reading: 'slope' })
  const user = shownOver(sampleScene([]), <Legend laid={laid} />)
  await user.click(screen.getByLabelText('Show the plants too'))
  expect(useUi.getState().readWithPlants).toBe(true)
  await user.click(screen.getByLabelText('Take it off the ground'))
  expect(useUi.getState().reading).toBeNull()
})

test('of a mask it says what its ends mean, and stays while the mask is shown', () => {
  useUi.setState({ maskShown: { layer: 1, mask: 1, pinned: true } })
  shownOver(sampleScene([]), <Legend laid={{ ...laid, title: 'Marram let through by slope', unit: '', histogram: null, low: 0, high: 1 }} />)
  expect(screen.getByTestId('legend').textContent).toContain('0 nothing grows, 1 everything may')
  expect(screen.queryByLabelText('Take it off the ground')).toBeNull()
})

test('while the ground is being read it says so', () => {
  useUi.setState({ reading: 'wetness' })
  const scene = sampleScene([])
  scene.ground_key = 'land'
  shownOver(scene, <Legend laid={null} />)
  expect(screen.getByTestId('legend').textContent).toBe('WetnessReading the ground…')
})
