import { expect, test } from 'vitest'
import { FORMS, LOOSE, courseThrough, newBlower, newBody, nodesOf, onCourse, retimed, withNodes } from './movers'
import { keepClear } from './keepClear'
import { sampleLayer, sampleScene } from '../../state/sample'

test('a path is gone along evenly, and fits into the time that is played', () => {
  const course = courseThrough([[0, 0], [6, 0], [6, 3]], 3, 3, 10)
  expect(nodesOf(course).map((n) => [n.time_s, n.x_m, n.z_m, n.over_m])).toEqual([[0, 0, 0, 3], [2, 6, 0, 3], [3, 6, 3, 3]])
  expect(nodesOf(courseThrough([[0, 0], [900, 0]], 3, 3, 10))[1].time_s).toBe(10)
  const same = nodesOf(courseThrough([[1, 1], [1, 1], [1, 1]], 0, 3, 10)).map((n) => n.time_s)
  expect(same.every((t, i) => i === 0 || t > same[i - 1])).toBe(true)
  expect(courseThrough([[1.234, 2]], 0, 3, 10)).toEqual({ kind: 'still', at: { x_m: 1.23, z_m: 2, over_m: 0 } })
})

test('new ones have names of their own', () => {
  const first = newBlower([[0, 0]], 1, [], 10)
  expect([first.name, newBlower([[0, 0]], 2, [first], 10).name]).toEqual(['Blower', 'Blower 2'])
  expect(newBody(FORMS.buoy.make, [[0, 0], [3, 0]], 1, [], 10)).toMatchObject({ name: 'Mooring buoy', felt: true, course: { kind: 'path' } })
})

test('a key keeps between those beside it, and a body is not let go before its path ends', () => {
  const nodes = nodesOf(courseThrough([[0, 0], [6, 0], [12, 0]], 0, 3, 10))
  expect(retimed(nodes, 1, 9)[1].time_s).toBe(3.95)
  expect(retimed(nodes, 0, -4)[0].time_s).toBe(0)
  const body = { ...newBody(FORMS.ball.make, [[0, 0]], 1, [], 10), loose: LOOSE }
  expect(onCourse(body, { kind: 'path', nodes }).loose!.at_s).toBe(4)
  expect(withNodes({ kind: 'path', nodes }, (n) => n.slice(0, 1)).kind).toBe('still')
})

test('plants are kept clear of a body by a line round it, and of its path by a track', () => {
  const { document } = sampleScene([sampleLayer(1, 'Marram'), { ...sampleLayer(2, 'Thrift'), locked: true }])
  const still = keepClear(document, newBody(FORMS.boulder.make, [[10, 4]], 1, [], 10))
  const { commands } = still as Extract<typeof still, { do: 'all' }>
  expect(commands.map((c) => c.do)).toEqual(['put_outline', 'put_zone', 'edit_layer'])
  const { value: ring } = commands[0] as Extract<(typeof commands)[0], { do: 'put_outline' }>
  expect(ring.nodes.every(([x, z]) => Math.abs(Math.hypot(x - 10, z - 4) - 0.75) < 0.01)).toBe(true)
  const led = keepClear(document, newBody(FORMS.barrel.make, [[0, 0], [9, 0]], 1, [], 10))
  expect(led).toMatchObject({ do: 'put_outline', value: { kind: 'track', name: 'Way of Barrel', width_m: 1.13, nodes: [[0, 0], [9, 0]] } })
})

test('a body from a file is called what the file is', () => {
  const form = { kind: 'mesh', blob: 'ab', name: 'crate.v2.obj', placing: { unit_m: 1, up: 'y', recentre: true, turn_over: false }, size_m: 1.5 } as const
  expect(newBody(form, [[0, 0]], 1, [], 10)).toMatchObject({ name: 'crate.v2', form })
})
