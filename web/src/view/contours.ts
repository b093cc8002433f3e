import { tickStep } from 'd3-array'
import type { GroundBuffer } from '../api/buffers'

/** Metres between contour lines: a round step, about a dozen over the height of the ground; half a metre at least. */
export const contourStep = ({ low_m, high_m }: Pick<GroundBuffer, 'low_m' | 'high_m'>): number =>
  high_m > low_m ? Math.max(0.5, tickStep(low_m, high_m, 12)) : 0.5
