import { Group } from 'three'
import { Line2 } from 'three/addons/lines/Line2.js'
import { LineGeometry } from 'three/addons/lines/LineGeometry.js'
import { LineMaterial } from 'three/addons/lines/LineMaterial.js'
import type { GroundBuffer } from '../../api/buffers'
import type { Schemas } from '../../api/client'
import { drape, edges } from './drape'

export interface GroundLine {
  kind: Schemas['OutlineKind']
  line: number[][]
  /** Of a track, metres. */
  width_m: number
  chosen: boolean
}

/** By kind: colour, and dash in pixels; the kinds differ without their colours too. */
const LOOKS: Record<Schemas['OutlineKind'], { colour: number; dash: number }> = {
  bed: { colour: 0x5d9150, dash: 0 },
  clearing: { colour: 0xb65a3c, dash: 0.9 },
  track: { colour: 0xe6dcc0, dash: 0 },
}

/** Outlines draped over the ground. */
export class OutlineLines {
  readonly group = new Group()

  set(lines: GroundLine[], ground: GroundBuffer) {
    this.clear()
    for (const { kind, line, width_m, chosen } of lines) {
      const { colour, dash } = LOOKS[kind]
      for (const part of kind === 'track' ? edges(line, width_m) : [line]) {
        const points = drape(ground, part)
        if (points.length < 6) continue
        const material = new LineMaterial({
          color: chosen ? 0xb8406d : colour, linewidth: chosen ? 3 : 2, dashed: dash > 0, dashSize: dash, gapSize: dash * 0.7,
        })
        const made = new Line2(new LineGeometry().setPositions(points), material)
        made.computeLineDistances()
        this.group.add(made)
      }
    }
  }

  /** A plan shows every line whole, whatever stands over it. */
  plan(on: boolean) {
    for (const line of this.group.children as Line2[]) line.material.depthTest = !on
  }

  clear() {
    for (const line of this.group.children as Line2[]) {
      line.geometry.dispose()
      line.material.dispose()
    }
    this.group.clear()
  }
}
