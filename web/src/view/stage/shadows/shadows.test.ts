import { BoxGeometry, Group, Mesh, MeshBasicMaterial, Vector3, type WebGLRenderer } from 'three'
import { afterEach, expect, test } from 'vitest'
import { lightUniforms } from '../light'
import { PlantLayers } from '../plantLayers'
import { ShadowMap } from './maps'
import { Shadows, type Cast } from './shadows'
import { shadowUniforms } from './uniforms'

afterEach(() => {
  lightUniforms.uSun.value.set(0.5, 0.6, 0.4).normalize()
  shadowUniforms.uShadowPx.value.fill(0)
})

/** Counts what it is asked to draw. */
function counting() {
  const renderer = { drawn: 0, autoClear: true, getRenderTarget: () => null, setRenderTarget: () => {}, clear: () => {}, render: () => renderer.drawn++ }
  return renderer
}

function scene(more: Partial<Cast> = {}): Cast {
  const house = new Group().add(new Mesh(new BoxGeometry(4, 3, 4), new MeshBasicMaterial()))
  return {
    under: new Vector3(), high_m: 1.6, plan: false, settled: true, lastMs: 100, grounds: [house.clone()], built: [house], movers: [new Group()],
    plants: new PlantLayers(), versions: { land: 0, things: 0, moment: -1 }, turn: () => {}, ...more,
  }
}

function drawing(software = false) {
  const renderer = counting()
  const shadows = new Shadows(software)
  const draw = (cast: Cast) => {
    const before = renderer.drawn
    shadows.update(renderer as unknown as WebGLRenderer, cast, () => {})
    return renderer.drawn - before
  }
  return { shadows, draw }
}

test('a map is laid in whole pixels, so that no edge swims when the eye goes along', () => {
  const map = new ShadowMap(0)
  for (const x of [0, 0.013, 1.77, -5.402]) {
    map.lay(new Vector3(x, 0.3, x * 0.7), 16)
    const at = new Vector3().setFromMatrixPosition(map.camera.matrixWorld).applyQuaternion(map.camera.quaternion.clone().invert())
    for (const c of [at.x, at.y]) expect(Math.abs(c / map.metresPerPx - Math.round(c / map.metresPerPx))).toBeLessThan(1e-6)
  }
})

test('what has not changed is not drawn again, and turning the view changes nothing', () => {
  const { draw } = drawing()
  const cast = scene()
  expect(draw(cast)).toBeGreaterThan(3)
  expect(draw(cast)).toBe(0)
  expect(draw({ ...cast, under: new Vector3(2, 0, 0) })).toBe(0)
  expect(draw({ ...cast, versions: { land: 0, things: 1, moment: -1 } })).toBeGreaterThan(0)
  expect(draw({ ...cast, versions: { land: 1, things: 1, moment: -1 } })).toBeGreaterThan(0)
})

test('far from where it was all about the eye is drawn anew', () => {
  const { draw } = drawing()
  const cast = scene()
  draw(cast)
  expect(draw({ ...cast, under: new Vector3(900, 0, 0) })).toBeGreaterThan(3)
})

test('a movement waits for nothing whose time is not known', () => {
  const { draw } = drawing()
  const cast = scene()
  expect(draw({ ...cast, settled: false })).toBe(0)
  expect(shadowUniforms.uShadowPx.value).toEqual([0, 0, 0, 0, 0])
  draw(cast)
  expect(shadowUniforms.uShadowPx.value.filter((px) => px > 0)).toHaveLength(4)
  // Known to be quick: it goes along.
  expect(draw({ ...cast, settled: false, under: new Vector3(900, 0, 0) })).toBeGreaterThan(0)
  // There is no time left at all.
  expect(draw({ ...cast, settled: false, under: new Vector3(-900, 0, 0), lastMs: 0 })).toBe(0)
})

test('a sun that is down throws none', () => {
  const { draw } = drawing()
  draw(scene())
  lightUniforms.uSun.value.set(0.9, -0.1, 0).normalize()
  expect(draw(scene())).toBe(0)
  expect(shadowUniforms.uShadowPx.value).toEqual([0, 0, 0, 0, 0])
  expect(shadowUniforms.uAboveAt.value.w).toBe(0)
})

test('only what moves is drawn anew at every moment, and near plants that bend', () => {
  const { draw } = drawing()
  const cast = scene({ movers: [new Group().add(new Mesh(new BoxGeometry(), new MeshBasicMaterial()))] })
  draw(cast)
  const near = draw({ ...cast, versions: { ...cast.versions, moment: 1 } })
  const all = draw({ ...cast, versions: { land: 2, things: 2, moment: 1 } })
  expect(near).toBeGreaterThan(1)
  expect(near).toBeLessThan(all)
})

test('materials are what they were after it', () => {
  const { draw } = drawing()
  const cast = scene()
  const mesh = cast.built[0].children[0] as Mesh
  const before = mesh.material
  draw(cast)
  expect(mesh.material).toBe(before)
})
