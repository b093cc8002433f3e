import { Vector2, Vector3, Vector4, type Texture } from 'three'
import type { Schemas } from '../../../api/client'

export type MotionFacts = Schemas['MotionFacts']

/** Plants in a row of the texture that holds how each is turned. */
export const SLOTS_ACROSS = 1024
/** Waves of the gusts, as in rookery-core/src/motion/gusts.rs. */
export const WAVES = 24
/** How much the amplitude of a wave swells and sinks. */
const SWELL = 0.7

/** The gusts at a moment, for all materials. */
export const windUniforms = {
  uWaves: { value: Array.from({ length: WAVES }, () => new Vector4()) },
  uSwells: { value: Array.from({ length: WAVES }, () => new Vector2(0, 1)) },
  uFrame: { value: new Vector3(1, 0, 20) },
  uTurned: { value: null as Texture | null },
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
