import { expect, test, vi } from 'vitest'
import { Cameras } from './cameras'

/** As much of a canvas as the controls ask for. */
function canvas(): HTMLElement {
  const own = { addEventListener: vi.fn(), removeEventListener: vi.fn(), style: {}, ownerDocument: null as unknown, getRootNode: () => own }
  own.ownerDocument = own
  return own as unknown as HTMLElement
}

test('a plan shows the whole ground, whatever the shape of the picture', () => {
  const cameras = new Cameras(canvas(), () => undefined)
  for (const [aspect, size] of [[1.5, [300, 100]], [0.5, [300, 100]], [1.5, [100, 300]]] as [number, [number, number]][]) {
    cameras.fit(aspect, size)
    const { left, right, top, bottom } = cameras.plan
    expect(right - left).toBeGreaterThanOrEqual(size[0])
    expect(top - bottom).toBeGreaterThanOrEqual(size[1])
    expect((right - left) / (top - bottom)).toBeCloseTo(aspect)
  }
})

test('a metre is as many pixels as the scale says', () => {
  const cameras = new Cameras(canvas(), () => undefined)
  cameras.fit(1, [100, 100])
  cameras.setMode('plan')
  expect(cameras.pxPerMetre(800)).toBeCloseTo(800 / 106)
  expect(cameras.bearing(800)).toEqual({ metresPerPx: 106 / 800, headingDeg: 0 })
  cameras.setMode('perspective')
  cameras.look({ eye_m: [0, 0, 100], target_m: [0, 0, 0] }, 90)
  // A picture of 90 degrees is twice as high as what is looked at is far.
  expect(cameras.bearing(800).metresPerPx).toBeCloseTo(200 / 800)
})

test('a heading is counted from north clockwise', () => {
  const cameras = new Cameras(canvas(), () => undefined)
  const heading = (x: number, z: number) => {
    cameras.look({ eye_m: [0, 5, 0], target_m: [x, 0, z] })
    return cameras.bearing(800).headingDeg
  }
  expect([heading(0, -10), heading(10, 0), heading(0, 10), heading(-10, 0)].map(Math.round)).toEqual([0, 90, 180, 270])
})

test('a place that was taken up is told again', () => {
  const moved = vi.fn()
  const cameras = new Cameras(canvas(), moved)
  const place = { eye_m: [12.5, 8, -3], target_m: [0, 1, 2] }
  cameras.look(place, 50)
  expect(cameras.place()).toEqual(place)
  expect(cameras.perspective.fov).toBe(50)
  expect(moved).toHaveBeenCalled()
})
