import { expect, test } from 'vitest'
import { Beyond } from './beyond'
import { sampleLook } from './sample'

test('the land beyond is seen when it is there and wanted, and its colours are the roots that grounds keep', () => {
  const beyond = new Beyond()
  beyond.show(true)
  expect(beyond.mesh.visible).toBe(false)
  const mesh = { ...sampleLook(1, 1).meshes[0][0], colours: new Float32Array([0.25, 0.09, 0.04, 0.25, 0.09, 0.04, 0.25, 0.09, 0.04]) }
  expect(beyond.set(mesh)).toBe(true)
  expect(beyond.set(mesh)).toBe(false)
  beyond.show(true)
  expect(beyond.mesh.visible).toBe(true)
  const colours = Array.from(beyond.mesh.geometry.getAttribute('aColour').array.slice(0, 3))
  for (const [i, c] of [0.5, 0.3, 0.2].entries()) expect(colours[i]).toBeCloseTo(c, 6)
  expect(mesh.colours[0]).toBe(0.25)
  beyond.show(false)
  expect(beyond.mesh.visible).toBe(false)
  expect(beyond.set(null)).toBe(true)
  beyond.show(true)
  expect(beyond.mesh.visible).toBe(false)
})
