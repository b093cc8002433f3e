import { DataTexture, LinearFilter, LinearMipmapLinearFilter, RGBAFormat, RepeatWrapping } from 'three'

const SIZE = 128

/** A whole number's hash, 0 to 1. */
function hash(x: number, y: number, salt: number): number {
  let h = Math.imul(x, 374761393) ^ Math.imul(y, 668265263) ^ Math.imul(salt, 2246822519)
  h = Math.imul(h ^ (h >>> 13), 1274126177)
  return ((h ^ (h >>> 16)) >>> 0) / 4294967296
}

/** Noise that repeats after `cells` cells over the texture, -1 to 1. */
function tiling(u: number, v: number, cells: number, salt: number): number {
  const [x, y] = [u * cells, v * cells]
  const [i, j] = [Math.floor(x), Math.floor(y)]
  const ease = (t: number) => t * t * (3 - 2 * t)
  const [fx, fy] = [ease(x - i), ease(y - j)]
  const at = (a: number, b: number) => hash((i + a) % cells, (j + b) % cells, salt) * 2 - 1
  const north = at(0, 0) + (at(1, 0) - at(0, 0)) * fx
  const south = at(0, 1) + (at(1, 1) - at(0, 1)) * fx
  return north + (south - north) * fy
}

function fractal(u: number, v: number, cells: number, salt: number): number {
  let [sum, weight] = [0, 1]
  for (let octave = 0; octave < 4; octave++) {
    sum += weight * tiling(u, v, cells << octave, salt + octave)
    weight *= 0.58
  }
  return sum * 0.62
}

/** Grain of the ground, made once: two noises, and the slopes of the first for light. */
export function grainTexture(): DataTexture {
  const heights = new Float32Array(SIZE * SIZE)
  for (let y = 0; y < SIZE; y++) for (let x = 0; x < SIZE; x++) heights[y * SIZE + x] = fractal(x / SIZE, y / SIZE, 6, 1)
  const data = new Uint8Array(SIZE * SIZE * 4)
  const byte = (v: number) => Math.max(0, Math.min(255, Math.round(128 + v * 127)))
  for (let y = 0; y < SIZE; y++) {
    for (let x = 0; x < SIZE; x++) {
      const at = (dx: number, dy: number) => heights[((y + dy + SIZE) % SIZE) * SIZE + ((x + dx + SIZE) % SIZE)]
      const i = (y * SIZE + x) * 4
      data[i] = byte(at(0, 0))
      data[i + 1] = byte(fractal(x / SIZE, y / SIZE, 3, 40))
      data[i + 2] = byte((at(1, 0) - at(-1, 0)) * 3)
      data[i + 3] = byte((at(0, 1) - at(0, -1)) * 3)
    }
  }
  const texture = new DataTexture(data, SIZE, SIZE, RGBAFormat)
  texture.wrapS = texture.wrapT = RepeatWrapping
  texture.minFilter = LinearMipmapLinearFilter
  texture.magFilter = LinearFilter
  texture.generateMipmaps = true
  texture.anisotropy = 1
  texture.needsUpdate = true
  return texture
}
