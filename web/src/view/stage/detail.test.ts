import { Group, OrthographicCamera, PerspectiveCamera, type Camera } from 'three'
import { expect, test } from 'vitest'
import { inBlocks, type Plants } from './blocks'
import { assignDetail } from './detail'
import { CARD, DOT, HULL, UNSEEN, type PlantLayer } from './plantLayer'
import type { RideNow } from './sway/ways'

interface Seen extends PlantLayer {
  filled: number[]
}

/** A row of plants going away from the camera, one every two and a half metres. */
function row(count: number, visible = true): Seen {
  const positions = new Float32Array(count * 3)
  for (let i = 0; i < count; i++) positions[i * 3 + 2] = -2.5 * (i + 1)
  const group = new Group()
  group.visible = visible
  const plants = { count, positions, sizes: new Float32Array(count).fill(1), tints: new Uint16Array(count) }
  return standIn(plants, group)
}

/** A layer that only notes what it is told to draw. */
function standIn(plants: Plants, group = new Group()): Seen {
  const layer = {
    group,
    bins: new Uint8Array(plants.count).fill(UNSEEN),
    plants,
    blocks: inBlocks(plants),
    near: [],
    far: [],
    share: 1,
    look: { species: { thin: true, height_m: 1, radius_m: 0.5, triangles: [6000, 800, 200] } },
    filled: [] as number[],
    forced: null,
    carriedBy: () => [] as (RideNow | null)[],
    fill(_: Uint8Array, perDetail: number[]) {
      layer.filled = [...perDetail]
    },
  }
  return layer as unknown as Seen
}

const seen = (camera: Camera) => ({ camera, heightPx: 800, exact: true })

function camera() {
  const c = new PerspectiveCamera(42, 1.5, 0.1, 5000)
  c.position.set(0, 1, 0)
  c.updateMatrixWorld()
  return c
}

test('near plants are drawn finer than far ones, and every one in sight is drawn', () => {
  const layer = row(100)
  const drawn = assignDetail([layer], seen(camera()), 1e9)
  expect(drawn.plants).toBe(100)
  expect([0, 1, CARD, DOT].every((d) => layer.filled[d] > 0)).toBe(true)
  // Sheets hold what a few broad blades of a far mesh cannot.
  expect(layer.filled[2]).toBe(0)
  expect(layer.filled.reduce((a, b) => a + b)).toBe(100)
  expect(drawn.asDots).toBe(layer.filled[DOT])
  const [full, light] = layer.filled
  expect(drawn.triangles).toBe(full * 6000 + light * 800 + layer.filled[CARD] * 4)
})

test('what has few triangles is whole or a card, never a few broad blades', () => {
  const layer = row(100)
  Object.assign(layer.look.species, { triangles: [600, 80, 20] })
  assignDetail([layer], seen(camera()), 1e9)
  const { filled } = layer
  expect([filled[0] > 0, filled[1], filled[2], filled[CARD] > 0]).toEqual([true, 0, 0, true])
})

test('a small budget is kept by drawing lighter, not by leaving out', () => {
  const layer = row(400)
  const free = assignDetail([layer], seen(camera()), 1e9)
  const tight = assignDetail([layer], seen(camera()), free.triangles / 4)
  expect(tight.triangles).toBeLessThanOrEqual(free.triangles / 4)
  expect(tight.plants).toBe(free.plants)
  expect(tight.asDots).toBeGreaterThan(free.asDots)
})

test('plants behind the camera and those of hidden layers are not drawn', () => {
  const away = camera()
  away.rotation.y = Math.PI
  away.updateMatrixWorld()
  const layer = row(50)
  expect(assignDetail([layer], seen(away), 1e9).plants).toBe(0)
  const hidden = row(50, false)
  expect(assignDetail([hidden], seen(camera()), 1e9).plants).toBe(0)
  expect(hidden.filled).toEqual([])
})

test('in plan all plants of a size are drawn alike, however far below', () => {
  const plan = new OrthographicCamera(-300, 300, 300, -300, -6000, 6000)
  plan.position.set(0, 3000, -250)
  plan.up.set(0, 0, -1)
  plan.lookAt(0, 0, -250)
  plan.updateMatrixWorld()
  const layer = row(60)
  expect(assignDetail([layer], seen(plan), 1e9).plants).toBe(60)
  expect(layer.filled.filter((n) => n > 0)).toEqual([60])
})

test('a layer that is to be shown one way is shown so, near and far', () => {
  const layer = row(60)
  layer.forced = CARD
  const drawn = assignDetail([layer], seen(camera()), 10)
  expect([drawn.asCards, drawn.triangles]).toEqual([60, 240])
})

/** Numbers from 0 to 1, the same at every run. */
function numbers(seed: number) {
  let state = seed
  return () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0
    return state / 4294967296
  }
}

function meadow(count: number, side: number, seed: number) {
  const next = numbers(seed)
  const positions = new Float32Array(count * 3)
  const sizes = new Float32Array(count)
  for (let i = 0; i < count; i++) {
    positions[i * 3] = (next() - 0.5) * side
    positions[i * 3 + 1] = next() * 20
    positions[i * 3 + 2] = (next() - 0.5) * side
    sizes[i] = 0.5 + next()
  }
  return { count, positions, sizes, tints: new Uint16Array(count) }
}

function somewhere(seed: number) {
  const next = numbers(seed * 7919 + 5)
  const c = new PerspectiveCamera(20 + 60 * next(), 1.6, 0.1, 5000)
  c.position.set((next() - 0.5) * 500, 2 + next() * 80, (next() - 0.5) * 500)
  c.lookAt((next() - 0.5) * 300, 0, (next() - 0.5) * 300)
  c.updateMatrixWorld()
  return c
}

test('decided by block, each plant is drawn as it would be by itself', () => {
  const plants = meadow(30_000, 400, 3)
  for (let view = 0; view < 40; view++) {
    const whole = standIn(plants)
    // All of them in one block: each is looked at.
    const all = { ...inBlocks(plants), count: 1, starts: new Uint32Array([0, plants.count]) }
    all.boxes = new Float32Array([-200, 0, -200, 200, 20, 200])
    all.largest = new Float32Array([1.5])
    Object.assign(whole, { blocks: all })
    const layer = standIn(plants)
    const [by, one] = [assignDetail([layer], seen(somewhere(view)), 200_000), assignDetail([whole], seen(somewhere(view)), 200_000)]
    expect(by).toEqual(one)
    // What is drawn as it lies would have been a dot.
    const looked = layer.near.reduce((sum, b) => sum + layer.blocks.starts[b + 1] - layer.blocks.starts[b], 0)
    expect(layer.filled[DOT]).toBeGreaterThanOrEqual(0)
    expect(looked).toBeLessThan(plants.count)
  }
})

test('a smaller share draws a part of the plants of the larger one', () => {
  const layer = standIn(meadow(20_000, 600, 9))
  Object.assign(layer, { share: 0.25 })
  const quarter = assignDetail([layer], seen(somewhere(4)), 1e9)
  Object.assign(layer, { share: 1 })
  const whole = assignDetail([layer], seen(somewhere(4)), 1e9)
  expect(quarter.plants / whole.plants).toBeGreaterThan(0.2)
  expect(quarter.plants / whole.plants).toBeLessThan(0.3)
})

/** Broke: upright sheets were drawn edge-on in a plan, so that shrubs all but vanished from it. */
test('from straight above no plant is an upright sheet, also where sheets are asked for', () => {
  const plan = new OrthographicCamera(-30, 30, 20, -20, -6000, 6000)
  plan.position.set(0, 3000, 0)
  plan.up.set(0, 0, -1)
  plan.lookAt(0, 0, -20)
  for (const zoom of [0.4, 1, 4]) {
    plan.zoom = zoom
    plan.updateProjectionMatrix()
    plan.updateMatrixWorld()
    const [layer, asked] = [row(12), row(12)]
    asked.forced = CARD
    for (const l of [layer, asked]) l.look.species.triangles.splice(0, 9, 6000, 800, 200, 48, 12)
    const drawn = assignDetail([layer, asked], seen(plan), 1e9)
    expect(drawn.asCards).toBe(0)
    expect(asked.filled[HULL]).toBe(asked.filled.reduce((a, b) => a + b))
    expect(Number.isFinite(drawn.triangles)).toBe(true)
  }
})

const ride = (by: [number, number, number], turn = 0): RideNow => ({ ground: 3, about: [0, 0], by, turn, pull: [0, 0, 0], slope: [0, 0, 0], swings: [] })

test('what a moving ground carries is drawn where it is now', () => {
  const still = row(40)
  assignDetail([still], seen(camera()), 1e9)
  // A hundred metres further on, near plants are far ones.
  const carried = row(40)
  carried.carriedBy = () => [ride([0, 0, -100])]
  const drawn = assignDetail([carried], seen(camera()), 1e9)
  expect(drawn.plants).toBe(40)
  expect(still.filled[0] > 0 && carried.filled[0] === 0).toBe(true)
  // Behind the camera there is nothing to draw.
  carried.carriedBy = () => [ride([0, 0, 200])]
  expect(assignDetail([carried], seen(camera()), 1e9).plants).toBe(0)
  // Half a turn about the camera's own place.
  carried.carriedBy = () => [ride([0, 0, 0], Math.PI)]
  expect(assignDetail([carried], seen(camera()), 1e9).plants).toBe(0)
})

test('of a layer on several grounds each is looked at where it is', () => {
  // Half of them lie behind the camera on ground 3.
  const positions = new Float32Array(180)
  for (let i = 0; i < 60; i++) positions[i * 3 + 2] = i < 30 ? -3 * (i + 1) : 3 * (i - 29)
  const layer = standIn({ count: 60, positions, sizes: new Float32Array(60).fill(1), tints: new Uint16Array(60), carried: [[0, 30], [3, 30]] })
  expect(assignDetail([layer], seen(camera()), 1e9).plants).toBe(30)
  layer.carriedBy = () => [null, ride([0, 0, -120])]
  expect(assignDetail([layer], seen(camera()), 1e9).plants).toBe(60)
  // Half a turn brings them to the front.
  layer.carriedBy = () => [null, ride([0, 0, 0], Math.PI)]
  expect(assignDetail([layer], seen(camera()), 1e9).plants).toBe(60)
})
