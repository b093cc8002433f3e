// @vitest-environment happy-dom
import { screen } from '@testing-library/react'
import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { sampleScene } from '../state/sample'
import { shownOver } from '../ui/shown'
import { HeightmapImport } from './HeightmapImport'

const [run, onDone] = [vi.fn(), vi.fn()]
const never = globalThis.fetch
beforeEach(() => vi.clearAllMocks())
afterEach(() => {
  globalThis.fetch = never
})

const inspection = { format: 'geo_tiff', nx: 400, nz: 300, low: 3, high: 91.5, missing: 12, width_m: 800, depth_m: 600, middle_m: [5000, 9000], white: null }

const answers = (status: number, body: object) => {
  globalThis.fetch = vi.fn(async () => new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } }))
}
const bring = async (size = 10) => {
  const user = shownOver(sampleScene([]), <HeightmapImport onDone={onDone} />, { run })
  await user.upload(screen.getByTestId('heightmap-file'), new File([new Uint8Array(size)], 'moor.tif', { type: 'image/tiff' }))
  return user
}

test('a file is described first; the ground changes when it is said, with its size, its map and how many heights it has', async () => {
  answers(200, { blob: 'ab', inspection })
  const user = await bring()
  const read = await screen.findByTestId('heightmap-read')
  expect(read.textContent).toContain('metres from 3 to 91.5')
  expect(screen.getByTestId('heightmap-missing').textContent).toContain('12 heights (less than 0.1 %) are missing')
  expect(run).not.toHaveBeenCalled()
  await user.click(screen.getByTestId('import-width_m'))
  await user.keyboard('850{Enter}')
  await user.click(screen.getByTestId('use-heightmap'))
  const value = {
    kind: 'heightmap', blob: 'ab', format: 'geo_tiff', name: 'moor.tif', width_m: 850, depth_m: 600, low_m: 3, high_m: 91.5, samples: [400, 300], middle_m: [5000, 9000],
  }
  expect(run.mock.lastCall![0]).toEqual({ do: 'edit_ground', edit: { set: 'source', value } })
  expect(onDone).toHaveBeenCalledOnce()
})

test('grey values get a size and heights to begin with, and cannot be used upside down', async () => {
  answers(200, { blob: 'cd', inspection: { ...inspection, format: 'png', white: 65535, width_m: null, depth_m: null, middle_m: null, missing: 0 } })
  const user = await bring()
  await screen.findByTestId('heightmap-read')
  const value = (key: string) => screen.getByTestId<HTMLInputElement>(`import-${key}`).value
  expect([value('width_m'), value('depth_m'), value('low_m'), value('high_m')]).toEqual(['399', '299', '0', '50'])
  await user.click(screen.getByTestId('import-low_m'))
  await user.keyboard('60{Enter}')
  expect(screen.getByTestId<HTMLButtonElement>('use-heightmap').disabled).toBe(true)
})

test('a file that is not taken is refused with the reason, and the ground is as it was', async () => {
  answers(422, { code: 'bad_file', message: 'this is no heightmap' })
  await bring()
  const problem = await screen.findByTestId('heightmap-problem')
  expect(problem.textContent).toBe('This file was not taken; the ground is as it was. this is no heightmap')
  expect(screen.queryByTestId('use-heightmap')).toBeNull()
  expect(run).not.toHaveBeenCalled()
})
