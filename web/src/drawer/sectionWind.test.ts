import { expect, test } from 'vitest'
import type { FlowBuffer } from '../api/buffers'
import { sectionScale } from './sectionScale'
import { windArrows } from './sectionWind'

test('arrows point where the wind goes along the line, longer where it is quicker, none under ground', () => {
  const cells: [number, number] = [30, 30]
  const heights = [0, 10, 20, 30]
  const ratio = new Float32Array(30 * 30 * 4 * 2)
  for (let c = 0; c < 30 * 4 * 30; c++) ratio[c * 2] = 1
  const flow: FlowBuffer = { first: [-58, -58], step: 4, cells, heights, ratio, ground: new Float32Array(900).fill(5) }
  const s = sectionScale(100, 0, 20, { left: 44, top: 6, width: 600, height: 160 })
  const land = Array.from({ length: 101 }, () => 5)
  const on = windArrows({ flow, from: [-50, 0], to: [50, 0] }, s, 100, land)
  expect(on.length).toBeGreaterThan(20)
  expect(on.every((a) => a.along > 0 && a.y < s.y(5))).toBe(true)
  const first = on.filter((a) => a.x === on[0].x)
  expect(first[0].along).toBeLessThan(first.at(-1)!.along)
  expect(windArrows({ flow, from: [50, 0], to: [-50, 0] }, s, 100, land).every((a) => a.along < 0)).toBe(true)
  expect(windArrows({ flow, from: [0, -50], to: [0, 50] }, s, 100, land).every((a) => Math.abs(a.along) < 1e-6)).toBe(true)
  expect(windArrows({ flow, from: [-50, 0], to: [50, 0] }, s, 100, land.map(() => null))).toEqual([])
})
