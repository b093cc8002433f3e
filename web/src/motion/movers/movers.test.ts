import { expect, test } from 'vitest'
import { LOOSE, courseThrough, newBlower, newBody, nodesOf, onCourse, retimed, withNodes } from './movers'

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
  expect(newBody('buoy', [[0, 0], [3, 0]], 1, [], 10)).toMatchObject({ name: 'Mooring buoy', felt: true, course: { kind: 'path' } })
})

test('a key keeps between those beside it, and a body is not let go before its path ends', () => {
  const nodes = nodesOf(courseThrough([[0, 0], [6, 0], [12, 0]], 0, 3, 10))
  expect(retimed(nodes, 1, 9)[1].time_s).toBe(3.95)
  expect(retimed(nodes, 0, -4)[0].time_s).toBe(0)
  const body = { ...newBody('ball', [[0, 0]], 1, [], 10), loose: LOOSE }
  expect(onCourse(body, { kind: 'path', nodes }).loose!.at_s).toBe(4)
  expect(withNodes({ kind: 'path', nodes }, (n) => n.slice(0, 1)).kind).toBe('still')
})
