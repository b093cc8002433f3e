import { DataTexture, DataUtils, HalfFloatType, LinearFilter, RGFormat, Vector2, Vector4, type Texture } from 'three'
import type { WavesBuffer } from '../../../api/buffers'

/** Waves of the sum, as in rookery-core/src/water/waves.rs. */
export const WAVES = 32
/** What a pixel sees at a distance of one metre, as in rookery-core/src/water/waves.rs; in a picture at rest that is not refined, and in one of a movement, there are fewer waves. */
const PIXEL = { refined: 0.0011, settled: 0.0022, moving: 0.0044 }
/** Rollers to the shore a second, as in rookery-core/src/water/sea.rs. */
const ROLL_HZ = 0.16
/** Deeper or higher than this nothing hangs on how much, metres. */
const DEEPEST_M = 60

/** The waves at a moment, and the shores, for all materials: `glsl.ts`. */
export const seaUniforms = {
  /** Of each wave turns a metre towards x and z, turns at the origin, and the amplitude of its slope. */
  uSea: { value: Array.from({ length: WAVES }, () => new Vector4()) },
  /** Its length, its frequency against that of the peak, and the variance of the slopes of it and all shorter ones. */
  uSeaIs: { value: Array.from({ length: WAVES }, () => new Vector4(1, 1, 0, 0)) },
  /** What a pixel sees at a distance of one metre, metres: waves shorter than twice that are not told apart. */
  uSeaFine: { value: PIXEL.refined },
  /** Variance of the slopes of what is no wave of the sum, significant height in metres, the next roller, and the level of the water. */
  uSeaFacts: { value: new Vector4(0, 0, 0, -1e6) },
  /** Height of the land over the water, and how many times as quick as over open water the peak is. */
  uShores: { value: null as Texture | null },
  /** North-west corner and size of the land. */
  uShoresAt: { value: new Vector4(0, 0, 1, 1) },
  /** Its samples each way; none where no land lies in the water. */
  uShoresIn: { value: new Vector2() },
}

let waves: WavesBuffer | null = null

/** Takes the waves of a scene. */
export function setSea(sea: WavesBuffer) {
  waves = sea
  const { uSeaIs, uSeaFacts, uShores, uShoresAt, uShoresIn } = seaUniforms
  let rest = 0
  for (let i = WAVES - 1; i >= 0; i--) {
    const c = sea.components[i]
    rest += 0.5 * c.slope * c.slope
    uSeaIs.value[i].set(c.length_m, c.above_peak, rest, 0)
  }
  uSeaFacts.value.set(sea.rough, sea.height_m, 0, uSeaFacts.value.w)
  uShores.value?.dispose()
  uShores.value = null
  uShoresIn.value.fromArray(sea.samples)
  if (sea.samples[0] > 0 && sea.level_m !== null) {
    const data = new Uint16Array(sea.heights.length * 2)
    for (let i = 0; i < sea.heights.length; i++) {
      data[2 * i] = DataUtils.toHalfFloat(Math.min(Math.max(sea.heights[i] - sea.level_m, -DEEPEST_M), DEEPEST_M))
      data[2 * i + 1] = DataUtils.toHalfFloat(Math.min(sea.ratios[i], 1000))
    }
    const texture = new DataTexture(data, sea.samples[0], sea.samples[1], RGFormat, HalfFloatType)
    texture.magFilter = texture.minFilter = LinearFilter
    texture.needsUpdate = true
    uShores.value = texture
    uShoresAt.value.set(...sea.first, ...sea.size_m)
  } else uShoresIn.value.set(0, 0)
  seaAt(0)
}

/** Sets the level of the water that is everywhere, metres; none with null. It comes with the ground, before its waves do. */
export function seaLevel(level: number | null) {
  seaUniforms.uSeaFacts.value.w = level ?? -1e6
}

/** Tells apart as many of them as there is time for. */
export function seaWhile(view: keyof typeof PIXEL) {
  seaUniforms.uSeaFine.value = PIXEL[view]
}

/** Moves them to a moment, seconds: phases are reduced in doubles here, so that an hour is as exact as a second. */
export function seaAt(time: number) {
  if (!waves) return
  for (const [i, c] of waves.components.entries()) {
    const turns = c.phase - c.hz * time
    seaUniforms.uSea.value[i].set(c.per_m[0], c.per_m[1], turns - Math.floor(turns), c.slope)
  }
  const roll = ROLL_HZ * time
  seaUniforms.uSeaFacts.value.z = roll - Math.floor(roll)
}

/** How many times as quick as over open water the peak is over a fetch, metres: as `Waves::ratio` of core. */
export function ratioOver(fetchM: number, sea: Pick<WavesBuffer, 'speed_m_per_s' | 'peak'> | null = waves): number {
  if (!sea) return 1
  const g = 9.81
  const u = Math.max(sea.speed_m_per_s, 1.2)
  const growing = 22 * Math.cbrt((g * g) / (u * Math.max(fetchM, 0.3)))
  return Math.max(Math.max(growing, (0.855 * g) / u) / sea.peak, 1)
}
