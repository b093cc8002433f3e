import { PerspectiveCamera, Vector3, type Camera } from 'three'
import { expect, test } from 'vitest'
import { mirrored } from './mirror'

function camera() {
  const c = new PerspectiveCamera(42, 1.6, 0.1, 5000)
  c.position.set(3, 9, 12)
  c.lookAt(-4, 3, -20)
  c.updateMatrixWorld(true)
  return c
}

const seen = (p: Vector3, c: Camera) => p.clone().applyMatrix4(c.matrixWorldInverse).applyMatrix4(c.projectionMatrix)

test('what is mirrored at a point of the water is where that point is in the mirror picture', () => {
  const c = camera()
  const below = mirrored(c, 2)
  for (const p of [new Vector3(0, 2, 0), new Vector3(-6, 2, -30), new Vector3(4, 2, -8)]) {
    // A ray from the eye that the water throws back: some way along it the mirror camera sees the same pixel as at the water.
    const eye = c.position
    const to = p.clone().sub(eye).normalize()
    const up = p.clone().add(new Vector3(to.x, -to.y, to.z).multiplyScalar(15))
    const [at, on] = [seen(p, below), seen(up, below)]
    expect(on.x).toBeCloseTo(at.x, 5)
    expect(on.y).toBeCloseTo(at.y, 5)
    // And both see the water as far from their middles.
    expect(Math.abs(at.x)).toBeCloseTo(Math.abs(seen(p, c).x), 5)
    expect(Math.abs(at.y)).toBeCloseTo(Math.abs(seen(p, c).y), 5)
  }
})

test('what lies below the water is not mirrored', () => {
  const below = mirrored(camera(), 2)
  const depth = (y: number) => seen(new Vector3(-4, y, -20), below).z
  expect(depth(1.9)).toBeLessThan(-1)
  expect(depth(2.1)).toBeGreaterThan(-1)
  expect(depth(14)).toBeLessThan(1)
})
