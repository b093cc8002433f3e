import { Vector3 } from 'three'
import { TAKES, cloudedOnTheWhole, type CloudLook } from './clouds'
import { BRIGHTEST, CLEAR_SCALE, GREY, LAND, MODEL, PLACES } from './model'

/** A sky by day, as the stills have it: `rookery-render/src/light/sky.rs` says whence it is. */
export interface Sky {
  sun: Vector3
  overcast: number
  /** Radiance of an overcast sky, overhead. */
  grey: Vector3
  /** Nine numbers for each of red, green and blue, as nine colours. */
  shape: Vector3[]
  bright: Vector3
}

/** The curve of the fifth degree through the places that are written down (Lagrange). */
function at(t: number): number[] {
  const weights = PLACES.map((p, i) => PLACES.reduce((w, q, k) => (k === i ? w : (w * (t - q)) / (p - q)), 1))
  return MODEL[0].map((_, n) => weights.reduce((sum, w, i) => sum + w * MODEL[i][n], 0))
}

export function makeSky(sun: Vector3, overcast: number): Sky {
  const elevation = Math.asin(Math.min(Math.max(sun.y, 0), 1))
  const all = at(Math.cbrt(elevation / (Math.PI / 2)))
  const scale = 0.07 + 0.17 * Math.sqrt(Math.max(0, sun.y))
  return {
    sun: sun.clone(),
    overcast,
    grey: new Vector3(...GREY).multiplyScalar(scale),
    shape: Array.from({ length: 9 }, (_, i) => new Vector3(all[i], all[9 + i], all[18 + i])),
    bright: new Vector3(...all.slice(27)).multiplyScalar(CLEAR_SCALE),
  }
}

const gradation = (up: number) => 1 + 4 * Math.exp(-0.7 / Math.max(up, 0.01))

/** Light from a unit direction; the shader in `glsl.ts` does the same. */
export function radiance(sky: Sky, d: Vector3): Vector3 {
  const to = new Vector3(d.x, Math.max(d.y, 0.002), d.z).normalize()
  const cos = Math.min(Math.max(to.dot(sky.sun), -1), 1)
  const from = Math.acos(cos)
  const of = (k: 'x' | 'y' | 'z') => {
    const [a, b, c, e, f, g, h, i, j] = sky.shape.map((s) => s[k])
    const mie = (1 + cos * cos) / (1 + j * j - 2 * j * cos) ** 1.5
    const clear = (1 + a * Math.exp(b / (to.y + 0.01))) * (c + e * Math.exp(f * from) + g * cos * cos + h * mie + i * Math.sqrt(to.y)) * sky.bright[k]
    const grey = (sky.grey[k] * gradation(to.y)) / gradation(1)
    return Math.min(Math.max(clear, 0), BRIGHTEST) * (1 - sky.overcast) + grey * sky.overcast
  }
  return new Vector3(of('x'), of('y'), of('z')).multiplyScalar(d.y < 0 ? 1 + 0.5 * d.y : 1)
}

/** Of the second order, in the order 1; y, z, x; xy, yz, 3z2-1, xz, x2-y2: with their factors (Ramamoorthi & Hanrahan 2001). */
export function harmonics({ x, y, z }: Vector3): number[] {
  return [0.282095, 0.488603 * y, 0.488603 * z, 0.488603 * x, 1.092548 * x * y, 1.092548 * y * z, 0.315392 * (3 * z * z - 1), 1.092548 * x * z, 0.546274 * (x * x - y * y)]
}
/** What a cosine makes of each order, divided by pi: light that leaves a white surface. */
const SMOOTHED = [1, 2 / 3, 2 / 3, 2 / 3, 1 / 4, 1 / 4, 1 / 4, 1 / 4, 1 / 4]

const [RINGS, TURNS] = [24, 24]

/** Nine colours from which the light that a white surface sends on follows for any normal; from below comes what the land sends back. */
export function ambient(sky: Sky, sunLight: Vector3, clouds?: { share: number; look: CloudLook }): Vector3[] {
  const all = Array.from({ length: 9 }, () => new Vector3())
  const level = sunLight.clone().multiplyScalar(Math.max(sky.sun.y, 0) * (1 - TAKES * (clouds?.share ?? 0)))
  const share = (2 * Math.PI) / (RINGS * TURNS)
  const add = (d: Vector3, light: Vector3) => harmonics(d).forEach((h, i) => all[i].addScaledVector(light, h * share * SMOOTHED[i]))
  const around = (visit: (d: Vector3) => void) => {
    for (let i = 0; i < RINGS; i++) {
      const y = (i + 0.5) / RINGS
      for (let k = 0; k < TURNS; k++) {
        const turn = ((k + 0.5 * (i & 1)) / TURNS) * 2 * Math.PI
        const r = Math.sqrt(1 - y * y)
        visit(new Vector3(r * Math.cos(turn), y, r * Math.sin(turn)))
      }
    }
  }
  around((d) => {
    const light = clouds ? cloudedOnTheWhole(radiance(sky, d), clouds.share, clouds.look) : radiance(sky, d)
    add(d, light)
    level.addScaledVector(light, d.y * share)
  })
  const back = level.multiply(new Vector3(...LAND)).multiplyScalar(1 / Math.PI)
  around((d) => add(d.setY(-d.y), back))
  return all
}

/** What a surface sends on of it. */
export function lightOn(all: Vector3[], normal: Vector3): Vector3 {
  return harmonics(normal).reduce((sum, h, i) => sum.addScaledVector(all[i], h), new Vector3())
}
