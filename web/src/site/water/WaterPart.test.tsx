// @vitest-environment happy-dom
import { screen } from '@testing-library/react'
import { beforeEach, expect, test, vi } from 'vitest'
import type { WaterPlane } from '../../api/client'
import { sampleScene } from '../../state/sample'
import { useUi } from '../../state/ui'
import { shownOver } from '../../ui/shown'
import { WaterPart } from './WaterPart'

const run = vi.fn()
beforeEach(() => vi.clearAllMocks())

const pool: WaterPlane = { id: 3, name: 'Tarn', x_m: 4, z_m: -6, width_m: 20, depth_m: 12, height_m: 7.25, turn_deg: 0, round: true }

function part(water_m: number | null, waters: WaterPlane[] = []) {
  const scene = sampleScene([])
  Object.assign(scene.document, { ground: { water_m }, waters })
  return shownOver(scene, <WaterPart />, { run })
}

test('the water that is everywhere is let in, raised and let out', async () => {
  const user = part(null)
  await user.click(screen.getByRole('switch', { name: 'Water' }))
  expect(run.mock.lastCall![0]).toEqual({ do: 'edit_ground', edit: { set: 'water', value: 0 } })
})

test('its level is typed, and without it there is none', async () => {
  const user = part(2)
  await user.click(screen.getByTestId('water'))
  await user.keyboard('3.5{Enter}')
  expect(run.mock.lastCall![0]).toEqual({ do: 'edit_ground', edit: { set: 'water', value: 3.5 } })
  await user.click(screen.getByRole('switch', { name: 'Water' }))
  expect(run.mock.lastCall![0]).toEqual({ do: 'edit_ground', edit: { set: 'water', value: null } })
})

test('a sheet is opened, moved north and made square; its z runs south', async () => {
  const user = part(null, [pool])
  await user.click(screen.getByText('at 7.25 m'))
  expect(useUi.getState().chosen).toEqual({ what: 'water', id: 3 })
  await user.click(screen.getByTestId('sheet-n'))
  await user.keyboard('9{Enter}')
  expect(run.mock.lastCall![0]).toEqual({ do: 'put_water', value: { ...pool, z_m: -9 } })
  await user.click(screen.getByText('Rectangle'))
  expect(run.mock.lastCall![0]).toEqual({ do: 'put_water', value: { ...pool, round: false } })
  await user.click(screen.getByLabelText('Delete Tarn'))
  expect(run.mock.lastCall![0]).toEqual({ do: 'remove_water', id: 3 })
})
