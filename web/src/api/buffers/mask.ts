import type { Histogram } from './histogram'
import { Reader } from './reader'

/** What one mask looks at, at the samples of a ground's buffer or the vertices of a mesh. */
export interface MaskBuffer {
  count: number
  histogram: Histogram
  /** Area where it is unknown, m2. */
  unknown_m2: number
  /** Not a number where it is unknown. */
  values: Float32Array
}

export function decodeMask(buffer: ArrayBuffer): MaskBuffer {
  const reader = new Reader(buffer, 'RKMK')
  const head = reader.head as unknown as MaskBuffer
  return { ...head, values: reader.f32(head.count) }
}
