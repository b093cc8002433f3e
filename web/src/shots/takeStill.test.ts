import { beforeEach, expect, test, vi } from 'vitest'
import { sampleLayer, sampleScene } from '../state/sample'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'

const sent: string[] = []
vi.mock('../api/client', () => ({
  wanted: async (answer: Promise<unknown>) => answer,
  api: { POST: async (path: string, { body }: { body: { shot: number } }) => (sent.push(`still ${body.shot}`), { still: `still-${sent.length}`, path }) },
}))
const { takePair } = await import('./takeStill')

const scene = { ...sampleScene([sampleLayer(1, 'Marram')]), document: { ...sampleScene([]).document, shots: [{ id: 4 }, { id: 5 }] } } as never
const say = vi.fn()

beforeEach(() => {
  sent.length = 0
  useUi.setState({ shot: 5, compared: null, station: 'planting' })
  useScene.setState({
    scene, say, refusal: null, saving: { state: 'saved', waiting: 0, since: 0 },
    run: () => {
      sent.push('run')
      useScene.setState({ saving: { state: 'saving', waiting: 1, since: 0 } })
      setTimeout(() => (sent.push('saved'), useScene.setState({ saving: { state: 'saved', waiting: 0, since: 0 } })), 5)
    },
    undo: () => sent.push('undo'),
  })
})

test('a pair is a still as it is, one as it was set aside once that is saved, and the layer as before', async () => {
  await takePair(sampleLayer(1, 'Marram'))
  expect(sent).toEqual(['still 5', 'run', 'saved', 'still 5', 'undo'])
  expect(useUi.getState()).toMatchObject({ station: 'shots', shot: 5, compared: { a: 'still-4', b: 'still-1' } })
})

test('where the other version is refused nothing is taken back that was not done', async () => {
  const run = useScene.getState().run
  useScene.setState({ run: (c) => (run(c), useScene.setState({ refusal: 'this layer is locked' })) })
  await takePair(sampleLayer(1, 'Marram'))
  expect(sent).toEqual(['still 5', 'run', 'saved'])
  expect(useUi.getState().compared).toBeNull()
})

test('without a shot it says what to do', async () => {
  useScene.setState({ scene: { ...(scene as object), document: { shots: [] } } as never })
  await takePair(sampleLayer(1, 'Marram'))
  expect([sent, say.mock.lastCall]).toEqual([[], ['Keep a shot first: Shots, From this view.']])
})
