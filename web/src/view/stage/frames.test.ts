import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { Frames } from './frames'

beforeEach(() => {
  vi.useFakeTimers()
  vi.stubGlobal('window', globalThis)
  vi.stubGlobal('requestAnimationFrame', (f: () => void) => setTimeout(f, 16))
  vi.stubGlobal('cancelAnimationFrame', clearTimeout)
})

afterEach(() => {
  vi.unstubAllGlobals()
  vi.useRealTimers()
})

function drawn(slow = false) {
  const pictures: boolean[] = []
  const frames: Frames = new Frames(() => pictures.push(frames.moving), slow)
  return { frames, pictures }
}

test('many changes in one frame are one picture, and none is drawn without a change', () => {
  const { frames, pictures } = drawn()
  for (let i = 0; i < 5; i++) frames.draw()
  vi.advanceTimersByTime(1000)
  expect(pictures).toEqual([false])
})

test('a movement is drawn rough, and in full once it rests', () => {
  const { frames, pictures } = drawn()
  for (let i = 0; i < 4; i++) {
    frames.move()
    vi.advanceTimersByTime(50)
  }
  expect(pictures).toEqual([true, true, true, true])
  vi.advanceTimersByTime(400)
  expect(pictures.at(-1)).toBe(false)
  expect(pictures).toHaveLength(5)
})

test('a change shows at once: in full where pictures are quick, rough first where they are not', () => {
  const quick = drawn()
  quick.frames.done(20, 1000)
  quick.frames.hurry()
  vi.advanceTimersByTime(400)
  expect(quick.pictures).toEqual([false])
  const slow = drawn(true)
  slow.frames.hurry()
  vi.advanceTimersByTime(400)
  expect(slow.pictures).toEqual([true, false])
})

test('pictures that take too long are allowed fewer triangles, quick ones more, within bounds', () => {
  const { frames } = drawn()
  const first = frames.triangles
  for (let i = 0; i < 4; i++) frames.done(500, first)
  expect(frames.triangles).toBeLessThan(first)
  for (let i = 0; i < 40; i++) frames.done(500, frames.triangles)
  expect(frames.triangles).toBe(90_000)
  for (let i = 0; i < 40; i++) frames.done(50, frames.triangles)
  expect(frames.triangles).toBe(6_000_000)
  // A quick picture with few triangles says nothing.
  const { frames: empty } = drawn()
  for (let i = 0; i < 9; i++) empty.done(5, 100)
  expect(empty.triangles).toBe(first)
  frames.moving = true
  expect(frames.triangles).toBe(1_500_000)
})

test('a stage that is gone draws no more', () => {
  const { frames, pictures } = drawn()
  frames.move()
  frames.stop()
  vi.advanceTimersByTime(1000)
  expect(pictures).toEqual([])
})

test('another moment is another picture of the same things; a change or a movement is not', () => {
  const { frames, pictures } = drawn()
  const picture = () => {
    vi.advanceTimersByTime(20)
    const { stale } = frames
    frames.done(10, 1000)
    return stale
  }
  frames.draw()
  expect(picture()).toBe(true)
  frames.again()
  expect(picture()).toBe(false)
  frames.play(true)
  expect(picture()).toBe(true)
  frames.again()
  frames.move()
  expect(picture()).toBe(true)
  // While it plays nothing comes to rest.
  vi.advanceTimersByTime(1000)
  frames.play(false)
  vi.advanceTimersByTime(1000)
  expect(pictures.at(-1)).toBe(false)
  expect(pictures.slice(2, -1).every((moving) => moving)).toBe(true)
})

test('while it plays slow pictures are thinned, and all is there again when it stops', () => {
  const { frames } = drawn()
  frames.play(true)
  vi.advanceTimersByTime(50)
  const first = frames.triangles
  frames.done(100, 1000)
  expect([frames.thinned, frames.stale]).toEqual([1, false])
  for (let i = 0; i < 20; i++) frames.done(200, 1000)
  expect(frames.thinned).toBe(0.35)
  expect(frames.triangles).toBeCloseTo(first * 0.35)
  frames.play(false)
  expect(frames.thinned).toBe(1)
  vi.advanceTimersByTime(400)
  expect(frames.moving).toBe(false)
})

test('what is at rest is drawn on, part by part, and any change ends it', () => {
  const parts: boolean[] = []
  const frames: Frames = new Frames(() => frames.done(10, 0), false, (first) => parts.push(first) < 500)
  frames.draw()
  vi.advanceTimersByTime(250)
  expect(parts).toEqual([])
  vi.advanceTimersByTime(120)
  expect(parts.length).toBeGreaterThan(3)
  expect(parts.map((first, n) => first === (n === 0))).not.toContain(false)
  const before = parts.length
  frames.draw()
  vi.advanceTimersByTime(200)
  expect(parts).toHaveLength(before)
  vi.advanceTimersByTime(2000)
  expect(parts.filter(Boolean)).toHaveLength(2)
  expect(parts).toHaveLength(500)
})

test('what moves is not drawn on', () => {
  const parts: boolean[] = []
  const frames: Frames = new Frames(() => frames.done(10, 0), false, (first) => parts.push(first) < 50)
  frames.play(true)
  vi.advanceTimersByTime(3000)
  expect(parts).toEqual([])
})
