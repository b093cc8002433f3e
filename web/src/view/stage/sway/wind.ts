import { Data3DTexture, DataTexture, FloatType, NearestFilter, RGBAFormat, RGFormat, Vector2, Vector3, Vector4, type Texture } from 'three'
import type { FlowBuffer } from '../../../api/buffers'
import type { Schemas } from '../../../api/client'

import { placeAt, rideAt, wayAt, type Place, type RideNow } from './ways'

export type MotionFacts = Schemas['MotionFacts']
export type Moving = Schemas['Moving']

/** Plants in a row of the texture that holds how each is turned. */
export const SLOTS_ACROSS = 1024
/** Waves of the gusts, as in rookery-core/src/motion/gusts.rs. */
export const WAVES = 24
/** Cells of the mean wind one above the other, as in rookery-core/src/air/mod.rs. */
const LEVELS = 24
/** How much the amplitude of a wave swells and sinks. */
const SWELL = 0.7

/** Blowers and bodies of a scene at most, as in rookery-core/src/document/moving.rs. */
const MOVERS = 8
/** Places of a blower in the past, and seconds between them, as in rookery-core/src/motion/blowing.rs. */
const PAST = 64
const PAST_STEP_S = 0.1
/** Points of a body's way at most, as in rookery-core/src/motion/pressing.rs. */
const POINTS = 256

/** Moving grounds of a scene at most, and keys of each, as in rookery-core/src/document/moving.rs. */
const RIDES = 4
const KEYS = 64

/** How fast the kinds of leaves turn to and fro, as in rookery-core/src/nursery/flutter.rs. */
const FLUTTER_HZ = [3.1, 4.3, 5.3, 6.7]

function rows(width: number, high = MOVERS): DataTexture {
  const texture = new DataTexture(new Float32Array(width * high * 4), width, high, RGBAFormat, FloatType)
  texture.minFilter = texture.magFilter = NearestFilter
  return texture
}

/** The gusts at a moment, for all materials. */
export const windUniforms = {
  uWaves: { value: Array.from({ length: WAVES }, () => new Vector4()) },
  uSwells: { value: Array.from({ length: WAVES }, () => new Vector2(0, 1)) },
  uFrame: { value: new Vector3(1, 0, 20) },
  uTurned: { value: null as Texture | null },
  uFlow: { value: null as Data3DTexture | null },
  uFlowAt: { value: new Vector4(0, 0, 1, 0) },
  uFlowHeights: { value: Array.from({ length: LEVELS }, (_, k) => k) },
  uBlown: { value: rows(PAST) },
  uBlowers: { value: Array.from({ length: MOVERS }, () => new Vector4()) },
  uBlowersTo: { value: Array.from({ length: MOVERS }, () => new Vector2()) },
  uBlowersIn: { value: Array.from({ length: MOVERS }, () => new Vector4()) },
  uTracks: { value: rows(POINTS) },
  uBodies: { value: Array.from({ length: MOVERS }, () => new Vector4()) },
  uBodiesIn: { value: Array.from({ length: MOVERS }, () => new Vector4()) },
  uMany: { value: new Int32Array(2) },
  uNow: { value: 0 },
  uFlutterTurns: { value: new Vector4() },
  uRides: { value: rows(2 * KEYS, RIDES) },
  uRideBy: { value: Array.from({ length: RIDES }, () => new Vector4()) },
  uRideTurn: { value: Array.from({ length: RIDES }, () => new Vector4(1, 0, 0, 0)) },
  uRidePull: { value: Array.from({ length: RIDES }, () => new Vector4()) },
  uRideSlope: { value: Array.from({ length: RIDES }, () => new Vector4()) },
}

/** The moving grounds at the moment that is shown, in the order of their rows. */
export let ridesNow: RideNow[] = []

/** Sets what moves by itself; nothing when null. */
export function setMoving(moving: Moving | null) {
  const felt = moving?.bodies.filter((b) => b.felt) ?? []
  windUniforms.uMany.value.set([moving?.blowers.length ?? 0, felt.length])
  const tracks = windUniforms.uTracks.value
  for (const [n, body] of felt.entries()) {
    windUniforms.uBodies.value[n].set(body.press_m, body.points.length, 0, 0)
    windUniforms.uBodiesIn.value[n].fromArray(body.bounds)
    ;(tracks.image.data as Float32Array).set(body.points.flat(), n * POINTS * 4)
  }
  tracks.needsUpdate = true
  ridesNow = []
}

/** Moves the grounds that move to a moment. */
function setRides(grounds: Moving['grounds'], time: number) {
  ridesNow = grounds.slice(0, RIDES).map((g) => rideAt(g, time))
  const { uRides, uRideBy, uRideTurn, uRidePull, uRideSlope } = windUniforms
  for (const [n, r] of ridesNow.entries()) {
    uRideBy.value[n].set(...r.by, r.swings.length / 8)
    uRideTurn.value[n].set(Math.cos(r.turn), Math.sin(r.turn), ...r.about)
    uRidePull.value[n].set(...r.pull, 0)
    uRideSlope.value[n].set(...r.slope, 0)
    ;(uRides.value.image.data as Float32Array).set(r.swings, n * 2 * KEYS * 4)
  }
  if (ridesNow.length > 0) uRides.value.needsUpdate = true
}

/** Moves all that moves by itself to a moment. */
function setMovers({ blowers, bodies, grounds }: Moving, time: number) {
  windUniforms.uNow.value = time
  setRides(grounds, time)
  const blown = windUniforms.uBlown.value
  for (const [n, b] of blowers.entries()) {
    const data = (blown.image.data as Float32Array).subarray(n * PAST * 4, (n + 1) * PAST * 4)
    const [low, high] = [new Vector3(Infinity, Infinity, Infinity), new Vector3(-Infinity, -Infinity, -Infinity)]
    const at = new Vector3()
    for (let k = 0; k < PAST; k++) {
      at.fromArray(placeAt(b.places as Place[], time - k * PAST_STEP_S).at_m).toArray(data, k * 4)
      low.min(at)
      high.max(at)
    }
    const middle = low.add(high).multiplyScalar(0.5)
    windUniforms.uBlowersIn.value[n].set(middle.x, middle.y, middle.z, high.distanceTo(middle) + b.reach_m)
    windUniforms.uBlowers.value[n].set(b.speed_m_per_s, b.reach_m, b.falloff, b.heading ? 0 : 1)
    if (b.heading) windUniforms.uBlowersTo.value[n].fromArray(b.heading)
  }
  if (blowers.length > 0) blown.needsUpdate = true
  for (const [n, b] of bodies.filter((b) => b.felt).entries()) {
    const [x, z] = wayAt(b.points, time)
    windUniforms.uBodies.value[n].setZ(x).setW(z)
  }
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
export function setMoment({ waves, heading, size_m, moving }: Pick<MotionFacts, 'waves' | 'heading' | 'size_m' | 'moving'>, time: number) {
  setMovers(moving, time)
  windUniforms.uFlutterTurns.value.fromArray(FLUTTER_HZ.map((hz) => (hz * time) % 1))
  const scale = Math.sqrt(1 + (SWELL * SWELL) / 2)
  for (const [i, w] of waves.entries()) {
    const amplitude = (w.amplitude * (1 + SWELL * cosTurns(w.swell_hz * time + w.swell_phase))) / scale
    const phase = w.hz * time - w.phase
    windUniforms.uWaves.value[i].set(w.along, w.across, phase - Math.floor(phase), amplitude)
    windUniforms.uSwells.value[i].set(amplitude * w.aside, w.hz)
  }
  windUniforms.uFrame.value.set(heading[0], heading[1], size_m)
}
