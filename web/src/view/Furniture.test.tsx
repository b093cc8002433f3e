// @vitest-environment happy-dom
import { act, screen } from '@testing-library/react'
import { expect, test } from 'vitest'
import { sampleLayer, sampleScene } from '../state/sample'
import { useUi } from '../state/ui'
import { useView } from '../state/view'
import { shownOver } from '../ui/shown'
import { Furniture } from './Furniture'
import type { Laid } from './useOverlay'

const laid: Laid = { title: 'Aspect', unit: '°', low: 0, high: 360, scale: 'round', histogram: null, over: new Map() }
const pointer = { x: 4, y: 17.6, z: 6, slope: 88.7, ground: 1, laid: 198.4 }

const readout = () => screen.getByTestId('readout').textContent

test('what is under the pointer is told: where, how high, how steep, and on which ground', () => {
  useView.setState({ pointer })
  const scene = sampleScene([sampleLayer(1, 'Marram')])
  Object.assign(scene.document, { grounds: [{ id: 1, name: 'The Needle Arch' }] })
  shownOver(scene, <Furniture ground={undefined} laid={null} />)
  expect(readout()).toBe('E 4  N \u22126  altitude 17.6 m  slope 89°  The Needle Arch')
})

test('what is read off the ground is told beside it, in its own words', () => {
  useView.setState({ pointer })
  useUi.setState({ reading: 'aspect' })
  shownOver(sampleScene([]), <Furniture ground={undefined} laid={laid} />)
  expect(readout()).toContain('aspect 198° S')
})

test('slope is not told twice, and off the ground there is nothing to tell', () => {
  useUi.setState({ reading: 'slope' })
  useView.setState({ pointer })
  shownOver(sampleScene([]), <Furniture ground={undefined} laid={{ ...laid, title: 'Slope' }} />)
  expect(readout()!.match(/slope/g)).toHaveLength(1)
})

test('ways to look are chosen, and the ground is asked', async () => {
  const user = shownOver(sampleScene([sampleLayer(1, 'Marram')]), <Furniture ground={undefined} laid={null} />)
  expect(readout()).toBe('Point at the ground')
  await user.click(screen.getByText('Plan'))
  await user.click(screen.getByText('Ask the ground'))
  await user.selectOptions(screen.getByTestId('preview-share'), 'A quarter')
  const { mode, probing, previewShare } = useUi.getState()
  expect([mode, probing, previewShare]).toEqual(['plan', true, 0.25])
})

test('a view that is refined says so, and one may do without it', async () => {
  const frame = { number: 9, ms: 30, settled: true, metresPerPx: 0.1, headingDeg: 0, plants: 4000, asDots: 1200, asCards: 0, triangles: 90_000, nap: 0, refined: 3, refining: true }
  useView.setState({ frame })
  const user = shownOver(sampleScene([sampleLayer(1, 'Marram')]), <Furniture ground={undefined} laid={null} />)
  expect(screen.getByText(/in sight/).textContent).toMatch(/as dots, being refined$/)
  act(() => useView.setState({ frame: { ...frame, refined: 16, refining: false } }))
  expect(screen.getByText(/in sight/).textContent).toMatch(/as dots, refined$/)
  await user.selectOptions(screen.getByTestId('rests'), 'Quick at rest')
  expect(useUi.getState().rest).toBe('quick')
  expect(localStorage.getItem('rookery-rest')).toBe('quick')
})
