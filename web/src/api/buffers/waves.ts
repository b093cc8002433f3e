import { Reader } from './reader'

/** One wave of the sum, as `Component` of rookery-core/src/water/waves.rs. */
export interface WaterWave {
  per_m: [number, number]
  length_m: number
  hz: number
  phase: number
  slope: number
  above_peak: number
}

/** Waves on the water, and where land shelters them. */
export interface WavesBuffer {
  components: WaterWave[]
  /** Variance of the slopes of what is shorter. */
  rough: number
  /** Significant height over open water, metres. */
  height_m: number
  speed_m_per_s: number
  /** Of the peak of open water, rad/s. */
  peak: number
  level_m: number | null
  /** North-west corner of the land, its size, and its samples each way; none where no land lies in the water. */
  first: [number, number]
  size_m: [number, number]
  samples: [number, number]
  /** Of the land, metres. */
  heights: Float32Array
  /** How many times as quick as over open water the peak is. */
  ratios: Float32Array
}

export function decodeWaves(buffer: ArrayBuffer): WavesBuffer {
  const reader = new Reader(buffer, 'RKWV')
  const head = reader.head as unknown as WavesBuffer
  const count = head.samples[0] * head.samples[1]
  return { ...head, heights: reader.f32(count), ratios: reader.f32(count) }
}
