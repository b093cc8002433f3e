import { BufferGeometry, Points, type ShaderMaterial } from 'three'
import { columnAttributes, refresh } from './batch'
import type { Blocks } from './blocks'

/**
 * All plants of a layer as dots, block after block. They are sent to the graphics once; a picture draws runs of blocks, and no plant is
 * touched for it.
 */
export class DotsAsTheyLie {
  readonly points: Points
  private geometry = new BufferGeometry()
  private readonly material: ShaderMaterial
  /** What the graphics have. */
  private place: Float32Array<ArrayBuffer> | null = null
  private ground: Uint8Array<ArrayBuffer> | null = null
  private sent: Blocks | null = null

  constructor(material: ShaderMaterial) {
    this.material = material
    // A list of materials has each run drawn by itself.
    this.points = new Points(this.geometry, [material])
    this.points.frustumCulled = false
    this.points.visible = false
  }

  show(blocks: Blocks, seen: number[], share: number) {
    this.points.visible = seen.length > 0
    this.material.uniforms.uShare.value = share
    if (seen.length === 0) return
    if (this.sent !== blocks) this.send(blocks)
    this.geometry.clearGroups()
    for (const [from, to] of runs(seen)) {
      this.geometry.addGroup(blocks.starts[from], blocks.starts[to] - blocks.starts[from], 0)
    }
  }

  /** Calls back with some blocks made ready to be drawn with another material; what is seen of them is as before after it. */
  cast(blocks: Blocks, which: number[], points: Points, draw: () => void) {
    if (which.length === 0) return draw()
    if (this.sent !== blocks) this.send(blocks)
    points.geometry = this.geometry
    const { groups } = this.geometry
    this.geometry.groups = []
    for (const [from, to] of runs(which)) this.geometry.addGroup(blocks.starts[from], blocks.starts[to] - blocks.starts[from], 0)
    draw()
    this.geometry.groups = groups
  }

  private send(blocks: Blocks) {
    if (this.place !== blocks.place || this.ground !== blocks.ground) {
      this.geometry.dispose()
      this.geometry = new BufferGeometry()
      this.points.geometry = this.geometry
      columnAttributes(this.geometry, blocks)
      this.place = blocks.place
      this.ground = blocks.ground
    }
    refresh(this.geometry, blocks.plants)
    this.sent = blocks
  }

  dispose() {
    this.geometry.dispose()
  }
}

/** Blocks in rising order as runs: the first, and the one behind the last. */
export function runs(blocks: number[]): [number, number][] {
  const out: [number, number][] = []
  for (const block of blocks) {
    const last = out.at(-1)
    if (last && last[1] === block) last[1] = block + 1
    else out.push([block, block + 1])
  }
  return out
}
