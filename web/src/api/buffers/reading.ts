import type { Schemas } from '../client'
import type { Histogram } from './histogram'
import { Reader } from './reader'

export interface ReadingBuffer {
  nx: number
  nz: number
  reading: Schemas['Reading']
  /** Written behind a number; empty when it has none. */
  unit: string
  scale: Schemas['Scale']
  histogram: Histogram
  /** At the samples of the ground's buffer, row by row. */
  values: Float32Array
}

export function decodeReading(buffer: ArrayBuffer): ReadingBuffer {
  const reader = new Reader(buffer, 'RKRD')
  const head = reader.head as unknown as ReadingBuffer
  return { ...head, values: reader.f32(head.nx * head.nz) }
}
