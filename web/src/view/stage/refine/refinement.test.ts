import { Group, PerspectiveCamera, Scene, Vector2, type Camera, type Object3D, type WebGLRenderer } from 'three'
import { expect, test } from 'vitest'
import { LATE, Refinement, jitter, type Part, type Refined } from './refinement'

/** Notes what is in sight in each picture of the scene, and how far aside it is seen from. */
function noting(scene: Scene) {
  const pictures: { seen: string[]; clears: boolean; aside: [number, number] }[] = []
  const renderer = {
    autoClear: true, setRenderTarget: () => {}, getDrawingBufferSize: (v: Vector2) => v.set(200, 100),
    render: (what: Object3D, camera: Camera) => {
      if (what !== scene) return
      const { view } = camera as PerspectiveCamera
      const seen: string[] = []
      scene.traverseVisible((o) => o.name && o.layers.test(camera.layers) && seen.push(o.name))
      pictures.push({ seen, clears: renderer.autoClear, aside: [view!.offsetX, view!.offsetY] })
    },
  }
  return { pictures, renderer: renderer as unknown as WebGLRenderer }
}

const named = (name: string, ...children: Object3D[]) => Object.assign(children.length > 0 ? new Group().add(...children) : new Group(), { name })

function picture() {
  const [grass, rock] = [named('grass'), named('rock')]
  const label = named('label')
  label.layers.set(LATE)
  const [land, plants, water] = [named('land', label), named('plants', grass, rock), named('water')]
  const scene = new Scene()
  scene.add(land, plants, water)
  const filled: [number, number][][] = []
  const slice = (alone: Object3D, near: [number, number][]): Part => ({ root: plants, alone, fill: () => filled.push(near) })
  const camera = new PerspectiveCamera()
  camera.layers.enable(LATE)
  let lights = 0
  const what: Refined = {
    scene, camera, before: [land], after: [water], cut: () => [slice(grass, [[0, 5]]), slice(grass, [[5, 9]]), slice(rock, [[0, 2]])], next: () => lights++,
  }
  return { what, scene, camera, filled, lights: () => lights }
}

test('a picture is drawn in slices: what is solid, plants layer by layer, and what is seen through', () => {
  const { what, scene, filled } = picture()
  const { pictures, renderer } = noting(scene)
  const refinement = new Refinement(false)
  refinement.begin(renderer, what)
  for (let n = 0; n < 5; n++) expect(refinement.step(renderer, () => {})).toBe(true)
  expect(pictures.map((p) => p.seen.join())).toEqual(['land', 'plants,grass', 'plants,grass', 'plants,rock', 'water', 'label'])
  expect(pictures.map((p) => p.clears)).toEqual([true, false, false, false, false, false])
  expect(filled).toEqual([[[0, 5]], [[5, 9]], [[0, 2]]])
  expect(refinement.passes).toBe(1)
  // All is in sight again, and the camera looks straight.
  const seen: string[] = []
  scene.traverseVisible((o) => o.name && seen.push(o.name))
  expect(seen).toEqual(['land', 'label', 'plants', 'grass', 'rock', 'water'])
  expect(what.camera.view?.enabled).toBe(false)
})

test('each picture is seen from a little aside, the first not at all, and light comes from another point before each', () => {
  const { what, scene, lights } = picture()
  const { pictures, renderer } = noting(scene)
  const refinement = new Refinement(false)
  refinement.begin(renderer, what)
  let steps = 0
  while (refinement.step(renderer, () => {})) steps++
  expect(refinement.passes).toBe(32)
  expect(steps).toBe(32 * 5 - 1)
  expect(lights()).toBe(31)
  expect(pictures[0].aside).toEqual([0, 0])
  const asides = pictures.filter((_, n) => n % 6 === 0).map((p) => p.aside)
  expect(new Set(asides.map(String)).size).toBe(32)
  for (const axis of [0, 1]) {
    expect(Math.abs(asides.reduce((sum, a) => sum + a[axis], 0) / 32)).toBeLessThan(0.03)
    for (const a of asides) expect(Math.abs(a[axis])).toBeLessThanOrEqual(0.5)
  }
})

test('it ends when it is told to', () => {
  const { what, scene } = picture()
  const { pictures, renderer } = noting(scene)
  const refinement = new Refinement(true)
  refinement.begin(renderer, what)
  refinement.step(renderer, () => {})
  expect(refinement.end()).toBe(true)
  expect(refinement.step(renderer, () => {})).toBe(false)
  expect(pictures).toHaveLength(1)
})

test('places aside are those of Halton', () => {
  // Halton (1960), bases 2 and 3: 1/2, 1/4, 3/4, 1/8; 1/3, 2/3, 1/9, 4/9.
  expect([1, 2, 3, 4].map((n) => jitter(n, 2) + 0.5)).toEqual([0.5, 0.25, 0.75, 0.125])
  for (const [n, at] of [1 / 3, 2 / 3, 1 / 9, 4 / 9].entries()) expect(jitter(n + 1, 3) + 0.5).toBeCloseTo(at, 12)
})
