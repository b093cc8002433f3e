import { expect, test } from 'vitest'
import type { GroundBuffer } from '../../api/buffers'
import { contourLabels } from './contourLabels'

function ground(height: (x: number, z: number) => number): GroundBuffer {
  const n = 101
  const heights = new Float32Array(n * n).map((_, i) => height((i % n) - 50, Math.floor(i / n) - 50))
  const histogram = { low: 0, high: 1, areas_m2: [] }
  return {
    nx: n, nz: n, size_m: [100, 100], step: 1, low_m: Math.min(...heights), high_m: Math.max(...heights), water_m: null,
    slope: histogram, altitude: histogram, heights, slopes: new Float32Array(n * n), colours: new Uint8Array(n * n * 4), earths: new Uint8Array(n * n * 4),
  }
}

test('heights are written on the fifth lines, where the ground has that height', () => {
  const labels = contourLabels(ground((x) => x * 0.53), 2)
  expect(labels.length).toBeGreaterThan(3)
  for (const l of labels) {
    expect(Math.abs(l.height % 10)).toBe(0)
    expect(l.x * 0.53).toBeCloseTo(l.height, 2)
  }
})

test('no two stand near each other', () => {
  const labels = contourLabels(ground((x, z) => Math.hypot(x, z)), 5)
  for (const a of labels) for (const b of labels) if (a !== b) expect(Math.hypot(a.x - b.x, a.z - b.z)).toBeGreaterThan(9.9)
})

test('a flat ground and contours that are off have none', () => {
  expect(contourLabels(ground(() => 3.2), 2)).toEqual([])
  expect(contourLabels(ground((x) => x), 0)).toEqual([])
})

test('on a ground that stands higher the heights are those of the scene', () => {
  const labels = contourLabels(ground((x) => x * 0.53), 2, 3.5)
  expect(labels.length).toBeGreaterThan(0)
  for (const l of labels) {
    expect(l.y).toBeCloseTo(l.height - 3.5)
    expect(Number.isInteger(l.height)).toBe(true)
  }
})
