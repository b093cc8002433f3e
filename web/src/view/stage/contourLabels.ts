import { CanvasTexture, Group, SRGBColorSpace, Sprite, SpriteMaterial } from 'three'
import { LATE } from './refine/refinement'
import type { GroundBuffer } from '../../api/buffers'

export interface ContourLabel {
  x: number
  z: number
  /** What is written, metres in the scene. */
  height: number
  /** Where it stands in the ground's own frame, metres. */
  y: number
}

/** Labels along a side of the ground, about. */
const ACROSS = 5

/**
 * Where heights are written: on every fifth line, spread over the ground, none near another. Where there are no fifth
 * lines, on every line. Lines lie at heights of the scene, `base` above the ground's own.
 */
export function contourLabels(g: GroundBuffer, step: number, base = 0): ContourLabel[] {
  if (!(step > 0)) return []
  const fifths = Math.floor((g.high_m + base) / (5 * step)) - Math.ceil((g.low_m + base) / (5 * step)) >= 1
  const every = fifths ? 5 * step : step
  const apart = Math.max(...g.size_m) / ACROSS
  const found: ContourLabel[] = []
  const rows = Math.max(1, Math.floor(g.nz / 40))
  for (let row = rows; row < g.nz - 1; row += rows) {
    for (let column = 1; column < g.nx - 2; column++) {
      const at = row * g.nx + column
      const [a, b] = [(g.heights[at] + base) / every, (g.heights[at + 1] + base) / every]
      const level = Math.ceil(Math.min(a, b))
      if (a === b || level > Math.max(a, b)) continue
      const share = (level - a) / (b - a)
      const x = ((column + share) / (g.nx - 1) - 0.5) * g.size_m[0]
      const z = (row / (g.nz - 1) - 0.5) * g.size_m[1]
      const height = level * every
      const near = found.some((l) => Math.hypot(l.x - x, l.z - z) < (l.height === height ? apart * 1.6 : apart * 0.5))
      if (!near) found.push({ x, z, height, y: height - base })
    }
  }
  return found
}

/** Heights written on the ground, the same size however far. */
export function labelGroup(labels: ContourLabel[]): Group {
  const group = new Group()
  const materials = new Map<number, SpriteMaterial>()
  for (const label of labels) {
    let material = materials.get(label.height)
    if (!material) {
      material = new SpriteMaterial({ map: written(label.height), sizeAttenuation: false, depthTest: true })
      materials.set(label.height, material)
    }
    const sprite = new Sprite(material)
    sprite.position.set(label.x, label.y, label.z)
    // After the sky, or its transparent parts would show what was there before it.
    sprite.renderOrder = 10
    sprite.layers.set(LATE)
    sprite.center.set(0.5, 0.1)
    group.add(sprite)
  }
  return group
}

function written(height: number): CanvasTexture {
  const canvas = document.createElement('canvas')
  canvas.width = 128
  canvas.height = 64
  const c = canvas.getContext('2d')!
  c.font = '600 34px "Spline Sans Mono", ui-monospace, monospace'
  c.textAlign = 'center'
  c.textBaseline = 'middle'
  c.lineWidth = 5
  c.lineJoin = 'round'
  c.strokeStyle = 'rgba(251, 250, 246, 0.85)'
  c.fillStyle = '#1d2b2f'
  const text = String(Number(height.toFixed(1))).replace('-', '\u2212')
  c.strokeText(text, 64, 32)
  c.fillText(text, 64, 32)
  const texture = new CanvasTexture(canvas)
  texture.colorSpace = SRGBColorSpace
  return texture
}

/** Sets the width of the labels: in perspective as a share of the distance, in plan in metres. A plan hides none of them. */
export function scaleLabels(group: Group, width: number, plan: boolean) {
  for (const child of group.children as Sprite[]) {
    child.scale.set(width, width / 2, 1)
    child.material.depthTest = !plan
  }
}

export function disposeLabels(group: Group) {
  for (const child of group.children) {
    const { material } = child as Sprite
    material.map?.dispose()
    material.dispose()
  }
}
