// @vitest-environment happy-dom
import { act, fireEvent, screen } from '@testing-library/react'
import { beforeEach, expect, test, vi } from 'vitest'
import type { Schemas } from '../api/client'
import { useClock } from '../state/clock'
import { queries } from '../state/data'
import { sampleLayer, sampleScene } from '../state/sample'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { shownOver } from '../ui/shown'
import { Compass } from './Compass'
import { MotionSheet } from './MotionSheet'
import { Timeline } from './Timeline'
import { WavesSaid } from './WavesSaid'
import { CLOCK, GUSTS } from './usual'
import { directionName } from './winds'

const [run, editLayer] = [vi.fn(), vi.fn()]

const facts = {
  force: { number: 4, name: 'moderate breeze' }, canopy_m: 0.4, waves_m: 0.53, clouds_m_per_s: [11, 0], roughness_m: 0.05, zero_plane_m: 0.27, heading: [1, 0], size_m: 20, strength: 0.25,
  profile: [{ height_m: 1, speed_m_per_s: 3 }, { height_m: 10, speed_m_per_s: 6 }, { height_m: 20, speed_m_per_s: 7 }], waves: [],
  layers: [
    { id: 1, height_m: 0.8, species: [{ species: 'marram', sway: { hz: 1.6, damping: 0.13, lean: 2, streamlining: 0, most_rad: 1.4 }, push: { speed_m_per_s: 2.5, load: 0.4, unrest: 0.5, aside: 0.25 } }] },
    { id: 2, height_m: 1, species: [{ species: 'boulder', sway: null, push: { speed_m_per_s: 0, load: 0, unrest: 0, aside: 0 } }] },
  ],
} as unknown as Schemas['MotionFacts']

function over(ui: React.ReactElement, speed = 6) {
  const scene = sampleScene([sampleLayer(1, 'Marram'), sampleLayer(2, 'Boulders')])
  Object.assign(scene.document, { motion: { wind: { speed_m_per_s: speed, from_deg: 270, gusts: GUSTS }, clock: CLOCK } })
  useUi.setState({ station: 'motion' })
  queries.setQueryDefaults(['motion'], { queryFn: () => facts, staleTime: Infinity })
  return shownOver(scene, ui, { run, editLayer })
}

beforeEach(() => {
  vi.clearAllMocks()
  useClock.setState({ time: 0, playing: false, loop: true, rate: null })
})

test('a calm says how to begin', async () => {
  const user = over(<MotionSheet />, 0)
  expect(screen.getByTestId('wind-said').textContent).toContain('It is calm')
  await user.click(screen.getByText('Let it blow at 6 m/s'))
  expect(run.mock.lastCall![0]).toEqual({ do: 'edit_motion', edit: { set: 'speed', value: 6 } })
})

test('the wind is set setting by setting, so that two who set it do not undo one another', async () => {
  const user = over(<MotionSheet />)
  expect(screen.getByTestId('wind-said').textContent).toContain('from the west')
  await user.click(screen.getByTestId('gust-strength'))
  await user.keyboard('40{Enter}')
  expect(run.mock.lastCall![0]).toEqual({ do: 'edit_motion', edit: { set: 'strength', value: 0.4 } })
})

test('with water in the scene it says how high waves are', () => {
  over(<WavesSaid high={0.526} />)
  expect(screen.queryByTestId('waves-said')).toBeNull()
  act(() => useScene.setState(({ scene }) => ({ scene: { ...scene!, document: { ...scene!.document, ground: { ...scene!.document.ground, water_m: 2 } } } })))
  expect(screen.getByTestId('waves-said').textContent).toContain('about 0.53 m')
})

test('the vane goes round by keys and says its name', () => {
  const turned = vi.fn()
  over(<Compass value={355} onChange={turned} />)
  const vane = screen.getByTestId('compass')
  expect(vane.getAttribute('aria-valuetext')).toBe('north')
  fireEvent.keyDown(vane, { key: 'ArrowRight' })
  expect(turned).toHaveBeenLastCalledWith(0)
  fireEvent.keyDown(vane, { key: 'ArrowLeft' })
  expect(turned).toHaveBeenLastCalledWith(350)
  expect([0, 44, 91, 262].map(directionName)).toEqual(['north', 'northeast', 'east', 'west'])
})

test('the timeline steps from picture to picture, stops and comes round', async () => {
  const user = over(<Timeline />)
  await user.click(screen.getByLabelText('One picture on'))
  expect(useClock.getState().time).toBeCloseTo(1 / 24)
  await user.click(screen.getByLabelText('Play (space)'))
  expect(useClock.getState().playing).toBe(true)
  fireEvent.change(screen.getByTestId('moment'), { target: { value: '4' } })
  expect(useClock.getState()).toMatchObject({ playing: false, time: 4 })
  await user.click(screen.getByLabelText('Stop, back to the start'))
  expect(useClock.getState().time).toBe(0)
  await user.click(screen.getByTestId('clock-length'))
  await user.keyboard('30{Enter}')
  expect(run.mock.lastCall![0]).toEqual({ do: 'edit_motion', edit: { set: 'length', value: 30 } })
})
