import { DataUtils, type DataTexture } from 'three'
import { afterEach, expect, test } from 'vitest'
import type { WavesBuffer } from '../../../api/buffers'
import { WAVES, ratioOver, seaAt, seaLevel, seaUniforms, setSea } from './sea'

const calm: WavesBuffer = {
  components: Array.from({ length: WAVES }, (_, i) => ({ per_m: [0.1 * (i + 1), 0], length_m: 10 / (i + 1), hz: 0.3 * (i + 1), phase: 0.25, slope: 0.02, above_peak: i + 1 })),
  rough: 0.01, height_m: 0.5, speed_m_per_s: 8, peak: 2, level_m: 3,
  first: [-50, -50], size_m: [100, 100], samples: [2, 2],
  heights: new Float32Array([2, 3, 4, 500]), ratios: new Float32Array([1, 2, 30, 1]),
}

afterEach(() => setSea({ ...calm, level_m: null, samples: [0, 0], heights: new Float32Array(), ratios: new Float32Array() }))

test('phases go with the time, and shorter waves count among the rest', () => {
  setSea(calm)
  seaAt(3600)
  const { uSea, uSeaIs, uSeaFacts } = seaUniforms
  // 0.25 - 0.3 * 3600 turns.
  expect(uSea.value[0].z).toBeCloseTo(0.25, 6)
  expect(uSeaIs.value[0].z).toBeCloseTo(WAVES * 0.0002, 8)
  expect(uSeaIs.value[WAVES - 1].z).toBeCloseTo(0.0002, 8)
  expect(uSeaFacts.value.z).toBeCloseTo((0.16 * 3600) % 1, 6)
})

test('the land is kept as heights over the water', () => {
  setSea(calm)
  const data = (seaUniforms.uShores.value as DataTexture).image.data as Uint16Array
  expect([0, 1, 2, 3, 4, 5, 6].map((i) => DataUtils.fromHalfFloat(data[i]))).toEqual([-1, 1, 0, 2, 1, 30, 60])
})

test('the level is that of the ground, whatever waves came last', () => {
  seaLevel(3)
  setSea(calm)
  expect(seaUniforms.uSeaFacts.value.w).toBe(3)
  // The water is taken out: nothing stays wet.
  seaLevel(null)
  expect(seaUniforms.uSeaFacts.value.w).toBeLessThan(-1e5)
  setSea(calm)
  expect(seaUniforms.uSeaFacts.value.w).toBeLessThan(-1e5)
})

test('over a short fetch the peak is quicker: with the cube root of it', () => {
  const sea = { speed_m_per_s: 8, peak: 22 * Math.cbrt(9.81 ** 2 / (8 * 20_000)) }
  expect(ratioOver(20_000, sea)).toBeCloseTo(1)
  expect(ratioOver(20, sea)).toBeCloseTo(10, 5)
  expect(ratioOver(1e9, sea)).toBe(1)
})
