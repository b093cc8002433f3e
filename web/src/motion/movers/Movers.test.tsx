// @vitest-environment happy-dom
import { fireEvent, screen } from '@testing-library/react'
import { beforeEach, expect, test, vi } from 'vitest'
import type { Schemas } from '../../api/client'
import { sampleLayer, sampleScene } from '../../state/sample'
import { useUi } from '../../state/ui'
import { shownOver } from '../../ui/shown'
import { motionNotes } from '../motionNotes'
import { BlowersPart } from './BlowersPart'
import { BodiesPart } from './BodiesPart'
import { LaneKeys, useLanes } from './Lanes'
import { FORMS, LOOSE, courseThrough, newBlower, newBody } from './movers'

const run = vi.fn()
const blower = newBlower([[0, 0], [12, 0]], 3, [], 10)
const ball = { ...newBody(FORMS.ball.make, [[0, 0], [6, 0], [12, 0]], 5, [], 10), loose: { ...LOOSE, at_s: 4 } }
const facts = {
  reached: { blowers: [{ id: 3, layers: [1] }], bodies: [{ id: 5, layers: [] }] }, moving: { blowers: [], bodies: [] },
} as unknown as Schemas['MotionFacts']

function over(ui: React.ReactElement) {
  const scene = sampleScene([sampleLayer(1, 'Marram')])
  Object.assign(scene.document, { blowers: [blower], bodies: [ball] })
  useUi.setState({ station: 'motion', chosen: null, drawing: null })
  return shownOver(scene, ui, { run })
}

beforeEach(() => vi.clearAllMocks())

test('a blower is opened, blows one way and says what it stirs', async () => {
  const user = over(<BlowersPart facts={facts} />)
  await user.click(screen.getByLabelText('Open Blower'))
  expect(screen.getByTestId('blower-reaches').textContent).toBe('It stirs Marram.')
  expect(screen.getByTestId('course-said').textContent).toContain('A path of 2 nodes, from 0 s to 3 s.')
  await user.click(screen.getByText('One way'))
  expect(run.mock.lastCall![0]).toEqual({ do: 'change', what: { of: 'blower', id: 3 }, fields: { blows: { kind: 'from', deg: 250 } } })
  await user.click(screen.getByText('Let it stand'))
  expect(run.mock.lastCall![0].value.course).toEqual({ kind: 'still', at: { x_m: 0, z_m: 0, over_m: 3 } })
  await user.click(screen.getByText('Draw it anew'))
  expect(useUi.getState().drawing).toEqual({ what: 'course', of: 'blower', id: 3 })
})

test('a body is let go, pushed north and says that it meets nothing', async () => {
  const user = over(<BodiesPart facts={facts} />)
  await user.click(screen.getByLabelText('Open Ball'))
  expect(screen.getByTestId('body-meets').textContent).toBe('It presses down nothing that grows.')
  await user.click(screen.getByTestId('loose-north'))
  await user.keyboard('3{Enter}')
  expect(run.mock.lastCall![0].fields).toEqual({ loose: { velocity_m_per_s: [0, 0, -3] } })
  await user.click(screen.getByRole('switch', { name: 'Let it go' }))
  expect(run.mock.lastCall![0].fields).toEqual({ loose: null })
  await user.click(screen.getByTestId('add-barrel'))
  expect(useUi.getState().drawing).toEqual({ what: 'mover', kind: 'barrel' })
})

function AllLanes() {
  return useLanes().map((lane) => <LaneKeys key={lane.name} lane={lane} length={10} />)
}

test('keys come later with the arrow keys, and the end of a path takes the letting go along', () => {
  over(<AllLanes />)
  fireEvent.keyDown(screen.getByTestId('key-blower-3-1'), { key: 'ArrowRight' })
  expect(run.mock.lastCall![0].value.course.nodes[1].time_s).toBe(3.1)
  fireEvent.keyDown(screen.getByTestId('key-body-5-2'), { key: 'ArrowRight' })
  expect(run.mock.lastCall![0].value.loose.at_s).toBe(4.1)
  fireEvent.keyDown(screen.getByTestId('key-body-5--1'), { key: 'ArrowLeft' })
  expect(run.mock.lastCall![0].fields).toEqual({ loose: { at_s: 4 } })
})

test('what passes through can be felt, and what reaches nothing is shown', () => {
  over(<BodiesPart facts={facts} />)
  const [through, nothing, leaves] = motionNotes(
    [{ what: 'passes_through', body: 5, layers: [1] }, { what: 'blows_at_nothing', blower: 3 }, { what: 'leaves', body: 5, at_s: 4.26 }],
    [sampleLayer(1, 'Marram')], [],
  )
  expect(through.text).toBe('Ball passes through Marram as if nothing grew there.')
  through.fix!.run()
  expect(run.mock.lastCall![0]).toEqual({ do: 'change', what: { of: 'body', id: 5 }, fields: { felt: true } })
  nothing.fix!.run()
  expect(useUi.getState().chosen).toEqual({ what: 'blower', id: 3 })
  expect(leaves.text).toBe('Ball comes off the ground at 4.3 s.')
  expect(courseThrough([[0, 0]], 0, 1, 1).kind).toBe('still')
})
