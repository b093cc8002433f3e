import { Vector2 } from 'three'
import { expect, test } from 'vitest'
import { alone, lightUniforms } from './light'
import { meshMaterial } from './plantMaterials'

// Broke: the plant on the nursery's table was shaded by maps of the scene, which its renderer does not have.
test('what stands alone is neither shaded by the scene nor under its water, and the scene is as it was', () => {
  lightUniforms.uShadowPx.value[0] = 0.03
  lightUniforms.uWater.value = 12
  const [own, scene] = [alone(meshMaterial(true, 1, new Vector2())), meshMaterial(true, 1, new Vector2())]
  expect(own.uniforms.uShadowPx.value).toEqual([0, 0, 0, 0, 0])
  expect(own.uniforms.uWater.value).toBeLessThan(-1e5)
  expect(scene.uniforms.uShadowPx).toBe(lightUniforms.uShadowPx)
  expect(scene.uniforms.uWater.value).toBe(12)
  // Its light is the scene's.
  expect(own.uniforms.uSun).toBe(lightUniforms.uSun)
  lightUniforms.uShadowPx.value[0] = 0
  lightUniforms.uWater.value = -1e6
})
