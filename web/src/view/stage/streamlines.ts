import { Group } from 'three'
import { LineMaterial } from 'three/addons/lines/LineMaterial.js'
import { LineSegments2 } from 'three/addons/lines/LineSegments2.js'
import { LineSegmentsGeometry } from 'three/addons/lines/LineSegmentsGeometry.js'
import { between, flowOver, type FlowBuffer } from '../../api/buffers'
import { rampAt } from '../ramps'

/** How high above the ground the wind is shown, metres. */
export const SHOWN_AT_M = 2
/** How far apart lines are begun, in cells. */
const APART = 3
/** A step along a line, in cells, and how many to either side. */
const STEP = 0.5
const MOST_STEPS = 60
/** Where shorter, a line says nothing. */
const LEAST_STEPS = 6

/** A line the wind follows: places, and at each how many times the wind over level ground it is. */
export interface Streamline {
  places: [number, number, number][]
  times: number[]
}

/** Lines that the mean wind follows near the ground, about evenly apart, in the order in which they were begun. */
export function streamlines(flow: FlowBuffer): Streamline[] {
  const { first, step, cells: [nx, nz] } = flow
  const wide = Math.ceil(nx / APART)
  const taken = new Uint8Array(wide * Math.ceil(nz / APART))
  const inside = (x: number, z: number) => x > first[0] && z > first[1] && x < first[0] + (nx - 1) * step && z < first[1] + (nz - 1) * step
  const room = (x: number, z: number) => Math.floor((z - first[1]) / step / APART) * wide + Math.floor((x - first[0]) / step / APART)
  const found: Streamline[] = []
  for (let k = APART / 2; k < nz - 1; k += APART)
    for (let i = APART / 2; i < nx - 1; i += APART) {
      const [x0, z0] = [first[0] + i * step, first[1] + k * step]
      const own = room(x0, z0)
      if (taken[own]) continue
      const seen = new Set([own])
      const half = (sign: number) => {
        const places: [number, number, number][] = []
        const times: number[] = []
        let [x, z] = [x0, z0]
        for (let n = 0; n < MOST_STEPS && inside(x, z); n++) {
          const here = room(x, z)
          if (taken[here] && !seen.has(here)) break
          seen.add(here)
          const [u, v] = flowOver(flow, x, z, SHOWN_AT_M)
          const speed = Math.hypot(u, v)
          places.push([x, between(flow, x, z, (c) => flow.ground[c]) + SHOWN_AT_M, z])
          times.push(speed)
          if (speed < 0.02) break
          // Half a step on, and from there the whole one.
          const [mu, mv] = flowOver(flow, x + (sign * u * STEP * step) / speed / 2, z + (sign * v * STEP * step) / speed / 2, SHOWN_AT_M)
          const middle = Math.max(Math.hypot(mu, mv), 1e-6)
          x += (sign * mu * STEP * step) / middle
          z += (sign * mv * STEP * step) / middle
        }
        return { places, times }
      }
      const [back, on] = [half(-1), half(1)]
      for (const r of seen) taken[r] = 1
      const places = [...back.places.reverse(), ...on.places.slice(1)]
      if (places.length < LEAST_STEPS) continue
      found.push({ places, times: [...back.times.reverse(), ...on.times.slice(1)] })
    }
  return found
}

/** The colour of a speed, 0 to 2 times that over level ground. */
const colourOf = (times: number) => rampAt('about_zero', times / 2).map((c) => (c / 255) ** 2.2)

/** The mean wind over the land, as lines in the view with a head at their middle. */
export class Streamlines {
  readonly group = new Group()

  set(flow: FlowBuffer | null) {
    this.clear()
    if (!flow) return
    const [positions, colours]: [number[], number[]] = [[], []]
    const piece = (a: number[], b: number[], from: number, to: number) => {
      positions.push(...a, ...b)
      colours.push(...colourOf(from), ...colourOf(to))
    }
    for (const { places, times } of streamlines(flow)) {
      for (let k = 1; k < places.length; k++) piece(places[k - 1], places[k], times[k - 1], times[k])
      const m = places.length >> 1
      const [tip, tail] = [places[m], places[m - 1]]
      const [dx, dy, dz] = [0, 1, 2].map((c) => tail[c] - tip[c])
      for (const side of [0.6, -0.6]) piece(tip, [tip[0] + dx + side * dz, tip[1] + dy, tip[2] + dz - side * dx], times[m], times[m])
    }
    const geometry = new LineSegmentsGeometry().setPositions(positions).setColors(colours)
    this.group.add(new LineSegments2(geometry, new LineMaterial({ vertexColors: true, linewidth: 2 })))
  }

  clear() {
    for (const line of this.group.children as LineSegments2[]) {
      line.geometry.dispose()
      line.material.dispose()
    }
    this.group.clear()
  }
}
