// @vitest-environment happy-dom
import { screen } from '@testing-library/react'
import { beforeEach, expect, test, vi } from 'vitest'
import { sampleScene } from '../state/sample'
import { useUi } from '../state/ui'
import { useView } from '../state/view'
import { shownOver } from '../ui/shown'
import { ShotFrame } from './ShotFrame'

const shot = { id: 1, name: 'From the cove', eye_m: [1, 2, 3], target_m: [0, 0, 0], view_deg: 42, width_px: 640, height_px: 360 }
const stage = { place: vi.fn(), look: vi.fn(), setLens: vi.fn(), frameOf: vi.fn(() => ({ across: 0.5, up: 1 })) }
const lens = { viewDeg: 42, aspect: 640 / 360 }

function shown(station: 'shots' | 'planting', eye: number[]) {
  const scene = sampleScene([])
  Object.assign(scene.document, { shots: [shot] })
  stage.place.mockReturnValue({ eye_m: eye, target_m: [0, 0, 0] })
  useView.setState({ stage: stage as never })
  useUi.setState({ station, shot: 1, mode: 'perspective' })
  return shownOver(scene, <ShotFrame />)
}

beforeEach(() => vi.clearAllMocks())

test('in Shots the edges of the picture are drawn, through the lens of the shot, and one can go back to it', async () => {
  const user = shown('shots', [9, 2, 3])
  expect(stage.setLens).toHaveBeenCalledWith(lens)
  const frame = screen.getByTestId('shot-frame').firstElementChild as HTMLElement
  expect([frame.style.left, frame.style.top]).toEqual(['25%', '0%'])
  expect(screen.getByText('Moved away from From the cove')).toBeTruthy()
  await user.click(screen.getByText('Go back'))
  expect(stage.look).toHaveBeenCalledWith(shot, lens)
})

test('elsewhere they are drawn only while one looks through the shot, and the lens is left alone', () => {
  shown('planting', [1, 2.0004, 3])
  expect(screen.getByTestId('shot-frame')).toBeTruthy()
  expect(screen.queryByText('From the cove')).toBeNull()
  expect(stage.setLens).not.toHaveBeenCalled()
})

test('elsewhere, away from it, and in plan there are none', () => {
  shown('planting', [9, 2, 3])
  expect(screen.queryByTestId('shot-frame')).toBeNull()
})
