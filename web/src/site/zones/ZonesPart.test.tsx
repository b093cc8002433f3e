// @vitest-environment happy-dom
import { screen } from '@testing-library/react'
import { beforeEach, expect, test, vi } from 'vitest'
import { queries } from '../../state/data'
import { sampleScene } from '../../state/sample'
import { shownOver } from '../../ui/shown'
import { ZonesPart } from './ZonesPart'

const run = vi.fn()
beforeEach(() => vi.clearAllMocks())

function part(zones: object[], outlines = [{ id: 1, name: 'Garth' }]) {
  const scene = sampleScene([])
  scene.grounds = [{ id: 7, key: 'arch' }]
  queries.setQueryData(['placed', 7, 'arch'], { kind: 'mesh', data: { groups: ['roof', 'foot'] } })
  Object.assign(scene.document, { zones, outlines })
  return shownOver(scene, <ZonesPart />, { run })
}

test('a new zone gets a name that is free', async () => {
  const user = part([{ id: 1, name: 'Zone' }, { id: 2, name: 'Zone 2' }])
  await user.click(screen.getByTestId('add-zone'))
  const { value } = run.mock.lastCall![0]
  expect(value.name).toBe('Zone 3')
  expect([1, 2]).not.toContain(value.id)
})

test('outlines and face groups are put into a zone and taken out', async () => {
  const zone = { id: 4, name: 'Bare', outlines: [1], groups: [{ ground: 7, name: 'roof' }] }
  const user = part([zone])
  await user.click(screen.getByRole('button', { name: 'Garth', pressed: true }))
  expect(run.mock.lastCall![0]).toEqual({ do: 'put_zone', value: { ...zone, outlines: [] } })
  await user.click(screen.getByRole('button', { name: 'foot', pressed: false }))
  expect(run.mock.lastCall![0].value.groups).toEqual([{ ground: 7, name: 'roof' }, { ground: 7, name: 'foot' }])
  await user.click(screen.getByRole('button', { name: 'roof', pressed: true }))
  expect(run.mock.lastCall![0].value.groups).toEqual([])
})
