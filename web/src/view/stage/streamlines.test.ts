import { expect, test } from 'vitest'
import { flowOver, type FlowBuffer } from '../../api/buffers'
import { streamlines } from './streamlines'

/** A grid of 24 x 24 columns of 3 cells over ground that rises to the east; twice as windy in its eastern half. */
function sample(): FlowBuffer {
  const cells: [number, number] = [24, 24]
  const heights = [0, 10, 20]
  const ratio = new Float32Array(24 * 24 * 3 * 2)
  for (let k = 0; k < 24; k++) for (let y = 0; y < 3; y++) for (let i = 0; i < 24; i++) ratio[((k * 3 + y) * 24 + i) * 2] = i < 12 ? 1 : 2
  const ground = Float32Array.from({ length: 24 * 24 }, (_, c) => (c % 24) * 0.5)
  return { first: [-46, -46], step: 4, cells, heights, ratio, ground }
}

test('lines follow the wind over the ground, evenly apart', () => {
  const lines = streamlines(sample())
  expect(lines.length).toBeGreaterThan(4)
  expect(lines.length).toBeLessThan(30)
  for (const { places, times } of lines) {
    expect(new Set(places.map((p) => p[2].toFixed(3))).size).toBe(1)
    for (let k = 1; k < places.length; k++) expect(places[k][0]).toBeGreaterThan(places[k - 1][0])
    expect(times.length).toBe(places.length)
    for (const [x, y] of places) expect(y).toBeCloseTo(((x + 46) / 4) * 0.5 + 2, 4)
  }
  const rows = lines.map((l) => l.places[0][2])
  expect(new Set(rows).size).toBe(rows.length)
})

test('it is read between the middles of cells, and level beyond them', () => {
  const flow = sample()
  expect(flowOver(flow, -46, 0, 2)[0]).toBeCloseTo(1)
  expect(flowOver(flow, 46, 0, 2)[0]).toBeCloseTo(2)
  expect(flowOver(flow, 0, 0, 2)[0]).toBeCloseTo(1.5)
  expect(flowOver(flow, 999, -999, 500)[0]).toBeCloseTo(2)
})
