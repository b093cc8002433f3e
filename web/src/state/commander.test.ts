import { beforeEach, expect, test, vi } from 'vitest'
import type { Command, SceneView } from '../api/client'
import { Commander, type Saving } from './commander'

const post = vi.hoisted(() => vi.fn())
const get = vi.hoisted(() => vi.fn())
vi.mock(import('../api/client'), async (original) => ({ ...(await original()), api: { POST: post, GET: get } as never }))

let seq = 0
const scene = () => ({ id: 's', seq }) as SceneView
const answer = (status: number, body: unknown) =>
  Promise.resolve({ response: { ok: status < 400, status }, data: body, error: status < 400 ? undefined : body })
const rename = (name: string): Command => ({ do: 'rename_scene', name })
const sent = () => post.mock.calls.map(([path, { body }]) => body.command?.name ?? path.split('/').pop())

function commander() {
  const said: { saving: Saving[]; refused: string[]; accepted: number[] } = { saving: [], refused: [], accepted: [] }
  const made = new Commander({
    scene,
    accept: (s) => {
      seq = s.seq
      said.accepted.push(s.seq)
    },
    saving: (s) => said.saving.push(s),
    refused: (m) => said.refused.push(m),
  })
  return { made, said }
}

const idle = async (c: Commander) => {
  while (!c.idle) await new Promise((resolve) => setTimeout(resolve, 1))
}

beforeEach(() => {
  seq = 0
  post.mockReset().mockImplementation((_path, { body }) => answer(200, { id: 's', seq: body.expected_seq + 1 }))
  get.mockReset()
})

test('commands go one at a time, each with the number the last answer gave', async () => {
  const { made, said } = commander()
  made.run(rename('a'))
  made.run(rename('b'))
  made.undo()
  await idle(made)
  expect(sent()).toEqual(['a', 'b', 'undo'])
  expect(post.mock.calls.map(([, { body }]) => body.expected_seq)).toEqual([0, 1, 2])
  expect(said.saving.at(-1)).toBe('saved')
})

test('of the values of one drag that wait, only the last is sent', async () => {
  const { made } = commander()
  for (const name of ['1', '2', '3', '4']) made.run(rename(name), 'drag', 'name')
  await idle(made)
  expect(sent()).toEqual(['1', '4'])
})

test('values of another drag or another setting are all sent', async () => {
  const { made } = commander()
  made.run(rename('1'), 'drag', 'name')
  made.run(rename('2'), 'drag', 'name')
  made.run(rename('3'), 'later drag', 'name')
  made.run(rename('4'), 'later drag', 'other')
  await idle(made)
  expect(sent()).toEqual(['1', '2', '3', '4'])
})

test('a stale number reads the scene again and sends the same value on top', async () => {
  const { made, said } = commander()
  post.mockImplementationOnce(() => answer(409, { code: 'stale', message: 'someone was faster', seq: 7 }))
  get.mockImplementation(() => answer(200, { id: 's', seq: 7 }))
  made.run(rename('mine'))
  await idle(made)
  expect(post.mock.calls.map(([, { body }]) => body.expected_seq)).toEqual([0, 7])
  expect(said.accepted).toEqual([7, 8])
  expect(said.refused).toEqual([])
})

test('a refusal is said once and the next command is sent all the same', async () => {
  const { made, said } = commander()
  post.mockImplementationOnce(() => answer(422, { code: 'refused', message: 'the amount is too large' }))
  made.run(rename('bad'))
  made.run(rename('good'))
  await idle(made)
  expect(said.refused).toEqual(['the amount is too large'])
  expect(sent()).toEqual(['bad', 'good'])
})

test('an undo with nothing to undo is no matter', async () => {
  const { made, said } = commander()
  post.mockImplementationOnce(() => answer(409, { code: 'nothing_to_do', message: 'there is nothing to undo' }))
  made.undo()
  await idle(made)
  expect(said.refused).toEqual([])
})

test('what cannot be sent waits and is sent again', async () => {
  vi.useFakeTimers()
  const { made, said } = commander()
  post.mockImplementationOnce(() => Promise.reject(new TypeError('no network')))
  made.run(rename('kept'))
  await vi.advanceTimersByTimeAsync(100)
  expect(said.saving.at(-1)).toBe('waiting')
  await vi.advanceTimersByTimeAsync(2000)
  vi.useRealTimers()
  await idle(made)
  expect(sent()).toEqual(['kept', 'kept'])
  expect(said.saving.at(-1)).toBe('saved')
})
