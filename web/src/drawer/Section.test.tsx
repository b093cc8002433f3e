// @vitest-environment happy-dom
import { screen } from '@testing-library/react'
import { beforeEach, expect, test } from 'vitest'
import { queries } from '../state/data'
import { sampleLayer, sampleScene } from '../state/sample'
import { useUi } from '../state/ui'
import { shownOver } from '../ui/shown'
import { Section } from './Section'

// happy-dom draws nothing.
beforeEach(() => {
  HTMLCanvasElement.prototype.getContext = () => null
})

const line = { from: [-120, 0] as [number, number], to: [120, 0] as [number, number], width_m: 3 }

test('until a line is drawn the section runs through the middle of the land', () => {
  const scene = sampleScene([])
  scene.ground_key = 'land'
  queries.setQueryData(['ground', 'land'], { size_m: [240, 240] })
  shownOver(scene, <Section />)
  expect(useUi.getState().section).toEqual(line)
})

test('the width of the strip is set, and a line is asked for', async () => {
  useUi.setState({ section: line })
  const user = shownOver(sampleScene([sampleLayer(1, 'Marram')]), <Section />)
  await user.click(screen.getByTestId('section-width'))
  await user.keyboard('8{Enter}')
  expect(useUi.getState().section).toEqual({ ...line, width_m: 8 })
  await user.click(screen.getByText('Draw the line'))
  expect(useUi.getState().drawing).toEqual({ what: 'section' })
})

test('what is read along it is read off the whole ground', async () => {
  useUi.setState({ section: line })
  const user = shownOver(sampleScene([]), <Section />)
  await user.selectOptions(screen.getByTestId('section-reading'), 'plan curvature')
  expect(useUi.getState().reading).toBe('plan_curvature')
  await user.selectOptions(screen.getByTestId('section-reading'), 'nothing')
  expect(useUi.getState().reading).toBeNull()
})
