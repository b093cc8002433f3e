import { Group, PerspectiveCamera, type Mesh, type Points } from 'three'
import { expect, test } from 'vitest'
import type { PlantsBuffer } from '../../api/buffers'
import { assignDetail } from './detail'
import { PlantLayer } from './plantLayer'
import { sampleLook } from './sample'

const look = sampleLook(1, 0.6)

/** A field to either side of the way north, every plant four metres from the next. */
function field(side: number): PlantsBuffer {
  const count = side * side
  const positions = new Float32Array(count * 3)
  for (let i = 0; i < count; i++) {
    positions[i * 3] = ((i % side) - side / 2) * 4
    positions[i * 3 + 2] = -Math.floor(i / side) * 4
  }
  return {
    count, tally: {} as PlantsBuffer['tally'], positions, sizes: new Float32Array(count).fill(1),
    rotations: new Int16Array(count * 4), forms: new Uint16Array(count), tints: new Uint16Array(count).map((_, i) => i),
  }
}

function northward() {
  const camera = new PerspectiveCamera(42, 1.5, 0.1, 5000)
  camera.position.set(0, 2, 5)
  camera.updateMatrixWorld()
  return camera
}

function drawn(layer: PlantLayer) {
  const objects = layer.group.children as (Points | Mesh)[]
  const points = objects.filter((o): o is Points => 'isPoints' in o)
  const meshes = objects.filter((o): o is Mesh => 'isMesh' in o && o.visible)
  const instances = meshes.reduce((sum, m) => sum + ((m.geometry as unknown as { instanceCount: number }).instanceCount ?? 0), 0)
  const [near, far] = points
  const inRuns = far.visible ? far.geometry.groups.reduce((sum, g) => sum + g.count, 0) : 0
  return { instances, dots: near.visible ? near.geometry.drawRange.count : 0, inRuns, far }
}

test('what is told of a picture is what the graphics are given', () => {
  const layer = new PlantLayer(look)
  new Group().add(layer.group)
  layer.set(field(200))
  const told = assignDetail([layer], { camera: northward(), heightPx: 800, exact: false }, 1e9)
  const { instances, dots, inRuns } = drawn(layer)
  expect(instances + dots + inRuns).toBe(told.plants)
  expect(dots + inRuns).toBe(told.asDots)
  expect(instances).toBeGreaterThan(50)
  expect(inRuns).toBeGreaterThan(10_000)
})

test('a camera that moves sends nothing of what lies far away', () => {
  const layer = new PlantLayer(look)
  layer.set(field(200))
  const camera = northward()
  assignDetail([layer], { camera, heightPx: 800, exact: false }, 1e9)
  const { far } = drawn(layer)
  const place = () => (far.geometry.getAttribute('iPlace') as unknown as { version: number }).version
  const before = place()
  for (let step = 0; step < 20; step++) {
    camera.position.x += 3
    camera.updateMatrixWorld()
    assignDetail([layer], { camera, heightPx: 800, exact: false }, 1e9)
  }
  expect(place()).toBe(before)
  // Other plants are sent anew.
  layer.set(field(190))
  assignDetail([layer], { camera, heightPx: 800, exact: false }, 1e9)
  expect(place()).toBeGreaterThan(before)
})

test('each dot that lies is its own plant, in its place and of its tint', () => {
  const layer = new PlantLayer(look)
  const plants = field(120)
  layer.set(plants)
  layer.forced = 6
  assignDetail([layer], { camera: northward(), heightPx: 800, exact: false }, 1e9)
  const { geometry } = drawn(layer).far
  const place = geometry.getAttribute('iPlace').array
  const tint = geometry.getAttribute('iTint').array
  const tints = new Uint8Array(plants.tints.buffer)
  let wrong = 0
  layer.blocks.order.subarray(0, plants.count).forEach((i, k) => {
    for (let c = 0; c < 3; c++) if (place[k * 4 + c] !== plants.positions[i * 3 + c]) wrong++
    if (tint[k * 4] !== tints[i * 2] || tint[k * 4 + 1] !== tints[i * 2 + 1]) wrong++
  })
  expect(wrong).toBe(0)
})
