import { Data3DTexture, FloatType, NearestFilter, RGFormat, Vector2, Vector3, Vector4, type Texture } from 'three'
import type { FlowBuffer } from '../../../api/buffers'
import type { Schemas } from '../../../api/client'

export type MotionFacts = Schemas['MotionFacts']

/** Plants in a row of the texture that holds how each is turned. */
export const SLOTS_ACROSS = 1024
/** Waves of the gusts, as in rookery-core/src/motion/gusts.rs. */
export const WAVES = 24
/** Cells of the mean wind one above the other, as in rookery-core/src/motion/flow/mod.rs. */
const LEVELS = 24
/** How much the amplitude of a wave swells and sinks. */
const SWELL = 0.7

/** The gusts at a moment, for all materials. */
export const windUniforms = {
  uWaves: { value: Array.from({ length: WAVES }, () => new Vector4()) },
  uSwells: { value: Array.from({ length: WAVES }, () => new Vector2(0, 1)) },
  uFrame: { value: new Vector3(1, 0, 20) },
  uTurned: { value: null as Texture | null },
  uFlow: { value: null as Data3DTexture | null },
  uFlowAt: { value: new Vector4(0, 0, 1, 0) },
  uFlowHeights: { value: Array.from({ length: LEVELS }, (_, k) => k) },
}

/** Sets the mean wind over the land; as over level ground when null. */
export function setFlow(flow: FlowBuffer | null) {
  windUniforms.uFlow.value?.dispose()
  windUniforms.uFlow.value = null
  windUniforms.uFlowAt.value.w = 0
  if (!flow) return
  const { first, step, cells, heights, ratio } = flow
  const texture = new Data3DTexture(ratio as Float32Array<ArrayBuffer>, cells[0], heights.length, cells[1])
  texture.format = RGFormat
  texture.type = FloatType
  texture.minFilter = texture.magFilter = NearestFilter
  texture.needsUpdate = true
  windUniforms.uFlow.value = texture
  windUniforms.uFlowAt.value.set(first[0], first[1], step, 1)
  windUniforms.uFlowHeights.value = heights
}

const cosTurns = (turns: number) => Math.cos(2 * Math.PI * turns)

/** Sets the gusts to a moment, seconds: phases are reduced in doubles here, so that an hour is as exact as a second. */
export function setMoment({ waves, heading, size_m }: Pick<MotionFacts, 'waves' | 'heading' | 'size_m'>, time: number) {
  const scale = Math.sqrt(1 + (SWELL * SWELL) / 2)
  for (const [i, w] of waves.entries()) {
    const amplitude = (w.amplitude * (1 + SWELL * cosTurns(w.swell_hz * time + w.swell_phase))) / scale
    const phase = w.hz * time - w.phase
    windUniforms.uWaves.value[i].set(w.along, w.across, phase - Math.floor(phase), amplitude)
    windUniforms.uSwells.value[i].set(amplitude * w.aside, w.hz)
  }
  windUniforms.uFrame.value.set(heading[0], heading[1], size_m)
}
