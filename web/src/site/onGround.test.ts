import { expect, test } from 'vitest'
import { insertNode, moveNode, newObstacle, newOutline, removeNode } from './onGround'

const square = [[0, 0], [10, 0], [10, 10], [0, 10]]

test('a new outline has a name of its own', () => {
  const first = newOutline('bed', square, 1, [])
  expect(first.name).toBe('Bed')
  expect(newOutline('bed', square, 2, [first]).name).toBe('Bed 2')
})

test('nodes are put in, moved and taken out, but never too many', () => {
  const outline = newOutline('bed', square, 1, [])
  expect(insertNode(outline, 3).nodes.at(-1)).toEqual([0, 5])
  expect(insertNode(outline, 0).nodes[1]).toEqual([5, 0])
  expect(moveNode(outline, 2, { x: 12.3456, z: 4 }).nodes[2]).toEqual([12.35, 4])
  const three = removeNode(outline, 0)!
  expect(three.nodes).toHaveLength(3)
  expect(removeNode(three, 0)).toBeNull()
  expect(removeNode(newOutline('track', square.slice(0, 2), 1, []), 0)).toBeNull()
})

test('a wall keeps its line from its first point on', () => {
  const wall = newObstacle('wall', [[5, 5], [8, 5], [8, 9]], 3, [])
  expect([wall.x_m, wall.z_m]).toEqual([5, 5])
  expect(wall.shape).toMatchObject({ kind: 'wall', points: [[0, 0], [3, 0], [3, 4]] })
})
