// @vitest-environment happy-dom
import { screen } from '@testing-library/react'
import { beforeEach, expect, test, vi } from 'vitest'
import type { Shot } from '../api/client'
import { sampleScene } from '../state/sample'
import { useUi } from '../state/ui'
import { useView } from '../state/view'
import { shownOver } from '../ui/shown'
import { ShotsSheet } from './ShotsSheet'

const [run, editShot] = [vi.fn(), vi.fn()]
const place = { eye_m: [1, 2, 3], target_m: [4, 5, 6] }
const stage = { place: vi.fn(() => place), look: vi.fn() }
beforeEach(() => vi.clearAllMocks())

const shot = (id: number, name: string) =>
  ({
    id, name, eye_m: [9, 9, 9], target_m: [0, 0, 0], view_deg: 42, sun_azimuth_deg: 220, sun_elevation_deg: 35, overcast: 0.1, width_px: 640, height_px: 360, samples: 16,
  }) as unknown as Shot

function sheet(shots: Shot[]) {
  const scene = sampleScene([])
  Object.assign(scene.document, { shots })
  useView.setState({ stage: stage as never })
  return shownOver(scene, <ShotsSheet />, { run, editShot })
}

test('a place of the view is kept as a shot with a name that is free', async () => {
  const user = sheet([shot(1, 'From the cove'), shot(5, 'Shot 3')])
  await user.click(screen.getByText('From this view'))
  const [command] = run.mock.lastCall!
  expect(command).toMatchObject({ do: 'add_shot', place: 2, shot: { ...place, name: 'Shot 4' } })
  expect([1, 5]).not.toContain(command.shot.id)
  expect(useUi.getState().shot).toBe(command.shot.id)
})

test('one looks through a shot, and its light is set', async () => {
  const user = sheet([shot(1, 'From the cove'), shot(2, 'The keeper')])
  await user.click(screen.getByLabelText('Look through The keeper'))
  expect(stage.look).toHaveBeenCalledWith(expect.objectContaining({ id: 2 }), { viewDeg: 42, aspect: 640 / 360 })
  expect(useUi.getState().shot).toBe(2)
  await user.click(screen.getByTestId('sun-height'))
  await user.keyboard('9{Enter}')
  expect(editShot.mock.lastCall!.slice(0, 2)).toEqual([2, { set: 'sun', azimuth_deg: 220, elevation_deg: 9 }])
})

test('a shot takes the place one looks from, and is deleted by name', async () => {
  useUi.setState({ shot: 1 })
  const user = sheet([shot(1, 'From the cove')])
  await user.click(screen.getByText('Use this view'))
  expect(editShot.mock.lastCall).toEqual([1, { set: 'camera', ...place }])
  await user.click(screen.getByLabelText('Delete From the cove'))
  expect(run.mock.lastCall).toEqual([{ do: 'remove_shot', id: 1 }])
})

test('without shots it says what to do', () => {
  sheet([])
  expect(screen.getByText('Find a place you like in the view, then keep it as a shot.')).toBeTruthy()
})
