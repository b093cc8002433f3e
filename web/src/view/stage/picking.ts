import { Matrix4, Raycaster, Vector2, Vector3, type Camera } from 'three'
import type { GroundBuffer } from '../../api/buffers'
import { heightAt, pickGround, slopeAt } from './grid'
import type { Picked, PlacedGrounds } from './placed'

export interface Point {
  x: number
  y: number
  z: number
}

export interface Pixel {
  x: number
  y: number
}

/** What picking needs to know of a view. Sizes are in pixels of the page. */
export interface Looked {
  camera: Camera
  size: { width: number; height: number }
  ground: GroundBuffer | null
  /** Whether the land is there. */
  land: boolean
  placed: Pick<PlacedGrounds, 'pick' | 'heightOn'>
}

function ray({ camera, size }: Looked, { x, y }: Pixel) {
  const caster = new Raycaster()
  camera.updateMatrixWorld()
  caster.setFromCamera(new Vector2((x / size.width) * 2 - 1, 1 - (y / size.height) * 2), camera as never)
  return caster.ray
}

/** The point of a ground under a pixel: of one ground alone where its number is given. */
export function pick(looked: Looked, at: Pixel, only: number | null = null): Picked | null {
  const { ground, land, placed } = looked
  if (!ground) return null
  const own = ray(looked, at)
  const on = land && (only ?? 0) === 0 ? pickGround(ground, own) : null
  const onLand = on && { ...on, ground: 0, slope: slopeAt(ground, on.x, on.z) ?? 0, laid: null }
  const beside = only === 0 ? null : placed.pick(own, only)
  if (!beside) return onLand
  const away = onLand ? own.origin.distanceTo(new Vector3(onLand.x, onLand.y, onLand.z)) : Infinity
  return beside.away < away ? beside : onLand
}

/** The point at a height under a pixel; null where the ray does not come down, or far off. */
export function pickLevel(looked: Looked, at: Pixel, height: number): Point | null {
  const { origin, direction } = ray(looked, at)
  const t = (height - origin.y) / direction.y
  return t > 0 && t < 90_000 ? { x: origin.x + direction.x * t, y: height, z: origin.z + direction.z * t } : null
}

/** Tells the pixels that points are seen at; null behind the camera. */
export function projector({ camera, size }: Looked): (p: Point) => Pixel | null {
  camera.updateMatrixWorld()
  const m = new Matrix4().multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse).elements
  return ({ x, y, z }) => {
    const w = m[3] * x + m[7] * y + m[11] * z + m[15]
    if (w <= 0) return null
    const u = (m[0] * x + m[4] * y + m[8] * z + m[12]) / w
    const v = (m[1] * x + m[5] * y + m[9] * z + m[13]) / w
    return { x: ((u + 1) / 2) * size.width, y: ((1 - v) / 2) * size.height }
  }
}

/** A ring on the ground that a point lies on, as the path of an SVG over the picture; level on a mesh, empty where it is out of sight. */
export function ringOnGround(looked: Looked, around: Point & { ground?: number }, radius: number, corners: number): string {
  const { ground: land, placed } = looked
  if (!land) return ''
  const on = around.ground ?? 0
  const project = projector(looked)
  let path = ''
  for (let i = 0; i <= corners; i++) {
    const angle = (i / corners) * 2 * Math.PI
    const x = around.x + Math.cos(angle) * radius
    const z = around.z + Math.sin(angle) * radius
    const y = on === 0 ? heightAt(land, x, z) : placed.heightOn(on, x, z, around.y)
    const at = y === null ? null : project({ x, y, z })
    path += at ? `${path === '' || path.endsWith(' ') ? 'M' : 'L'}${at.x.toFixed(1)},${at.y.toFixed(1)}` : ' '
  }
  return path.trim()
}
