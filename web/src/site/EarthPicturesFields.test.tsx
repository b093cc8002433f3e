// @vitest-environment happy-dom
import { screen, waitFor } from '@testing-library/react'
import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { sampleScene } from '../state/sample'
import { shownOver } from '../ui/shown'
import { EarthPicturesFields } from './EarthPicturesFields'
import { toldBy } from './earthPictures'

const [run, say] = [vi.fn(), vi.fn()]
const never = globalThis.fetch
beforeEach(() => vi.clearAllMocks())
afterEach(() => {
  globalThis.fetch = never
})

let refuse = 'it ends too early'
/** Each picture is kept under its name. */
const keeps = () => {
  globalThis.fetch = vi.fn(async (_: unknown, init?: RequestInit) => {
    const file = init!.body as File
    return file.name.includes('torn')
      ? new Response(JSON.stringify({ code: 'bad_picture', message: refuse }), { status: 422 })
      : new Response(JSON.stringify({ blob: `blob of ${file.name}`, width_px: 8, height_px: 8, colours: [] }), { status: 201 })
  })
}
const file = (name: string) => new File([new Uint8Array(4)], name, { type: 'image/png' })
const scene = (earth_pictures: object[]) => {
  const all = sampleScene([])
  return { ...all, document: { ...all.document, earth_pictures } } as typeof all
}
const set = { id: 'sand', name: 'strand', colour: { blob: 'c', file: 'strand.png' }, size_m: 3, relief_m: 0.1 }

test('pictures that are chosen together are told apart by their names', () => {
  expect(toldBy(['moss.png'])).toEqual(['colour'])
  expect(toldBy(['moss_height.png'])).toEqual(['colour'])
  expect(toldBy(['moss_rough.jpg', 'moss_colour.jpg', 'moss_displacement.jpg'])).toEqual(['roughness', 'colour', 'height'])
  expect(toldBy(['a.png', 'b.png'])).toEqual(['colour', null])
  expect(toldBy(['a_height.png', 'b_rough.png'])).toEqual(['height', 'roughness'])
})

test('an earth takes a set on in one step, and only the earths that lie here are offered', async () => {
  keeps()
  const user = shownOver(scene([]), <EarthPicturesFields shown={['turf', 'rock']} />, { run, say })
  expect(screen.queryByText('Sand')).toBeNull()
  await user.upload(screen.getByTestId('bring-turf'), [file('short_grass_rough.png'), file('short_grass_colour.png')])
  await waitFor(() => expect(run).toHaveBeenCalledOnce())
  const picture = (file: string) => ({ blob: `blob of ${file}`, file })
  expect(run.mock.lastCall![0]).toEqual({
    do: 'put_earth_pictures',
    value: { id: 'turf', name: 'short grass', size_m: 2, relief_m: 0.05, colour: picture('short_grass_colour.png'), roughness: picture('short_grass_rough.png') },
  })
  expect(say).not.toHaveBeenCalled()
})

test('a picture that cannot be read, and a set without a colour, are told and change nothing', async () => {
  keeps()
  const user = shownOver(scene([]), <EarthPicturesFields shown={['turf']} />, { run, say })
  await user.upload(screen.getByTestId('bring-turf'), [file('torn.png')])
  await waitFor(() => expect(say).toHaveBeenLastCalledWith('torn.png: it ends too early'))
  refuse = '“the file” cannot be read as a picture: it ends too early'
  await user.upload(screen.getByTestId('bring-turf'), [file('torn.png')])
  await waitFor(() => expect(say).toHaveBeenLastCalledWith('“torn.png” cannot be read as a picture: it ends too early'))
  await user.upload(screen.getByTestId('bring-turf'), [file('a_height.png'), file('a_rough.png')])
  await waitFor(() => expect(say.mock.lastCall![0]).toContain('needs a picture of its colour'))
  expect(run).not.toHaveBeenCalled()
})

test('one picture of a set is changed by itself, sizes are set, and the set is taken off', async () => {
  keeps()
  const user = shownOver(scene([set]), <EarthPicturesFields shown={['turf']} />, { run, say })
  expect(screen.getByTestId('worn-sand').textContent).toContain('Sand in strand')
  // Relief asks for heights.
  expect(screen.getByTestId<HTMLInputElement>('relief-of-sand').matches(':disabled')).toBe(true)
  await user.upload(screen.getByTestId('height-of-sand'), file('bumps.png'))
  await waitFor(() => expect(run.mock.lastCall![0]).toEqual({ do: 'put_earth_pictures', value: { ...set, height: { blob: 'blob of bumps.png', file: 'bumps.png' } } }))
  await user.click(screen.getByTestId('size-of-sand'))
  await user.keyboard('1.5{Enter}')
  expect(run.mock.lastCall![0]).toEqual({ do: 'put_earth_pictures', value: { ...set, size_m: 1.5 } })
  await user.click(screen.getByRole('button', { name: 'Take the pictures off sand' }))
  expect(run.mock.lastCall![0]).toEqual({ do: 'remove_earth_pictures', id: 'sand' })
})
