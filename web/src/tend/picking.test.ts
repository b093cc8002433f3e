import { expect, test } from 'vitest'
import { holds, plantAt, plantsWithin, ringOf } from './picking'

const plants = (places: [number, number, number][]) => ({ count: places.length, positions: new Float32Array(places.flat()), sizes: new Float32Array(places.map(() => 1)) })
/** Seen from the south, a metre is ten pixels; what is farther north is no smaller. */
const project = (p: { x: number; y: number; z: number }) => ({ x: p.x * 10, y: 200 - p.y * 10 })

test('the plant under the pointer is the one nearest to the eye of those within reach', () => {
  const three = plants([[0, 0, -5], [0.5, 0, 2], [30, 0, 0]])
  const view = { width: 400, height: 300 }
  const eye = { x: 0, y: 2, z: 20 }
  expect(plantAt(three, 2, project, eye, { x: 2, y: 190 }, view)).toBe(1)
  expect(plantAt(three, 2, project, eye, { x: 300, y: 165 }, view)).toBe(2)
  expect(plantAt(three, 2, project, eye, { x: 150, y: 100 }, view)).toBeNull()
})

test('a plant whose base is out of sight is passed over', () => {
  expect(plantAt(plants([[0.2, -20, 5]]), 40, project, { x: 0, y: 0, z: 9 }, { x: 2, y: 190 }, { width: 400, height: 300 })).toBeNull()
})

test('a line drawn around plants takes those whose base it goes around', () => {
  const line = [{ x: -5, y: 150 }, { x: 60, y: 150 }, { x: 60, y: 250 }, { x: -5, y: 250 }]
  expect(plantsWithin(plants([[0, 0, 0], [5, 1, 0], [7, 0, 0], [2, 20, 0]]), project, line)).toEqual([0, 1])
  expect(holds([{ x: 0, y: 0 }, { x: 4, y: 0 }, { x: 4, y: 4 }, { x: 2, y: 1 }, { x: 0, y: 4 }], { x: 2, y: 3 })).toBe(false)
})

test('a drag straight across spans a box, one around stays as it is', () => {
  expect(ringOf([{ x: 0, y: 0 }, { x: 21, y: 9 }, { x: 40, y: 20 }])).toEqual([{ x: 0, y: 0 }, { x: 40, y: 0 }, { x: 40, y: 20 }, { x: 0, y: 20 }])
  const around = [{ x: 0, y: 0 }, { x: 30, y: 0 }, { x: 30, y: 30 }, { x: 2, y: 28 }]
  expect(ringOf(around)).toBe(around)
})
