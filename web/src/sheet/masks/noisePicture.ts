import type { GroundBuffer } from '../../api/buffers'

/** A window of a ground's samples. */
export interface Window {
  columns: number
  rows: number
  /** How much ground lies across it, metres. */
  across_m: number
  /** Row by row from its north-west corner. */
  values: Float32Array
}

/** Forms of a noise that are shown across its picture. */
const FORMS = 8
/** Fewer samples across would not show a form. */
const LEAST = 32
/** More than these would not be seen; of a wider window samples are left out. */
const MOST = 280

/**
 * Values at the samples of a ground about its middle, twice as wide as high: so wide that eight forms of the noise lie across, as
 * far as the ground goes and its samples are close enough.
 * `values` are those of the samples, row by row from the north-west; `form_m` is the width of the noise's largest forms, metres.
 */
export function windowOf(ground: Pick<GroundBuffer, 'nx' | 'nz' | 'size_m'>, values: Float32Array, form_m: number): Window {
  const step_m = ground.size_m[0] / (ground.nx - 1)
  const wanted = Math.max(LEAST, Math.ceil((FORMS * form_m) / step_m))
  const wide = Math.min(wanted, ground.nx, 2 * ground.nz)
  const every = Math.ceil(wide / MOST)
  const columns = Math.floor(wide / every)
  const rows = Math.max(1, Math.floor(columns / 2))
  const [left, top] = [Math.floor((ground.nx - columns * every) / 2), Math.max(0, Math.floor((ground.nz - rows * every) / 2))]
  const out = new Float32Array(columns * rows)
  for (let row = 0; row < rows; row++) {
    const from = (top + row * every) * ground.nx + left
    for (let column = 0; column < columns; column++) out[row * columns + column] = values[from + column * every]
  }
  return { columns, rows, across_m: columns * every * step_m, values: out }
}
