import { Group, OrthographicCamera, PerspectiveCamera } from 'three'
import { expect, test } from 'vitest'
import { assignDetail } from './detail'
import { CARD, DOT, UNSEEN, type PlantLayer } from './plantLayer'

interface Seen extends PlantLayer {
  filled: number[]
}

/** A row of plants going away from the camera, one every two and a half metres. */
function row(count: number, visible = true): Seen {
  const positions = new Float32Array(count * 3)
  for (let i = 0; i < count; i++) positions[i * 3 + 2] = -2.5 * (i + 1)
  const group = new Group()
  group.visible = visible
  const layer = {
    group,
    bins: new Uint8Array(count),
    plants: { count, positions, sizes: new Float32Array(count).fill(1) },
    look: { species: { height_m: 1, radius_m: 0.5, triangles: [600, 80, 20] } },
    filled: [] as number[],
    forced: null,
    fill(_: Uint8Array, perDetail: number[]) {
      layer.filled = [...perDetail]
    },
  }
  return layer as unknown as Seen
}

function camera() {
  const c = new PerspectiveCamera(42, 1.5, 0.1, 5000)
  c.position.set(0, 1, 0)
  c.updateMatrixWorld()
  return c
}

test('near plants are drawn finer than far ones, and every one in sight is drawn', () => {
  const layer = row(100)
  const drawn = assignDetail([layer], camera(), 800, 1e9)
  expect(drawn.plants).toBe(100)
  expect([0, 1, 2, CARD, DOT].every((d) => layer.filled[d] > 0)).toBe(true)
  expect(layer.filled.reduce((a, b) => a + b)).toBe(100)
  expect(drawn.asDots).toBe(layer.filled[DOT])
  const [full, light, far] = layer.filled
  expect(drawn.triangles).toBe(full * 600 + light * 80 + far * 20 + layer.filled[CARD] * 4)
})

test('a small budget is kept by drawing lighter, not by leaving out', () => {
  const layer = row(400)
  const free = assignDetail([layer], camera(), 800, 1e9)
  const tight = assignDetail([layer], camera(), 800, free.triangles / 4)
  expect(tight.triangles).toBeLessThanOrEqual(free.triangles / 4)
  expect(tight.plants).toBe(free.plants)
  expect(tight.asDots).toBeGreaterThan(free.asDots)
})

test('plants behind the camera and those of hidden layers are not drawn', () => {
  const away = camera()
  away.rotation.y = Math.PI
  away.updateMatrixWorld()
  const layer = row(50)
  expect(assignDetail([layer], away, 800, 1e9).plants).toBe(0)
  const hidden = row(50, false)
  expect(assignDetail([hidden], camera(), 800, 1e9).plants).toBe(0)
  expect([...hidden.bins].every((b) => b === UNSEEN)).toBe(true)
})

test('in plan all plants of a size are drawn alike, however far below', () => {
  const plan = new OrthographicCamera(-300, 300, 300, -300, -6000, 6000)
  plan.position.set(0, 3000, -250)
  plan.up.set(0, 0, -1)
  plan.lookAt(0, 0, -250)
  plan.updateMatrixWorld()
  const layer = row(60)
  expect(assignDetail([layer], plan, 800, 1e9).plants).toBe(60)
  expect(layer.filled.filter((n) => n > 0)).toEqual([60])
})

test('a layer that is to be shown one way is shown so, near and far', () => {
  const layer = row(60)
  layer.forced = CARD
  const drawn = assignDetail([layer], camera(), 800, 10)
  expect([drawn.asCards, drawn.triangles]).toEqual([60, 240])
})
