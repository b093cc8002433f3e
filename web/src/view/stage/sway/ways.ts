import { Quaternion } from 'three'
import type { Schemas } from '../../../api/client'

export type Place = Omit<Schemas['Place'], 'at_m' | 'turn'> & { at_m: [number, number, number]; turn: [number, number, number, number] }

/** The first of a list in order of time that is later. */
function after<T>(list: T[], time: number, of: (item: T) => number): number {
  let [low, high] = [0, list.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (of(list[middle]) <= time) low = middle + 1
    else high = middle
  }
  return low
}

const [from, to] = [new Quaternion(), new Quaternion()]

/** Where a thing is at a time, as in rookery-core/src/motion/course.rs. */
export function placeAt(places: Place[], time: number): Place {
  const next = after(places, time, (p) => p.time_s)
  if (next === 0 || next === places.length) return places[Math.max(0, next - 1)]
  const [a, b] = [places[next - 1], places[next]]
  const u = (time - a.time_s) / (b.time_s - a.time_s)
  from.fromArray(a.turn).slerp(to.fromArray(b.turn), u)
  return { time_s: time, at_m: [0, 1, 2].map((k) => a.at_m[k] + (b.at_m[k] - a.at_m[k]) * u) as Place['at_m'], turn: from.toArray() as Place['turn'] }
}

/** Where a body is on the plan, along its way as plants look at it: x, z, seconds, height. */
export function wayAt(points: number[][], time: number): [number, number] {
  const next = after(points, time, (p) => p[2])
  if (next === 0 || next === points.length) return points[Math.max(0, next - 1)].slice(0, 2) as [number, number]
  const [a, b] = [points[next - 1], points[next]]
  const u = (time - a[2]) / (b[2] - a[2])
  return [a[0] + (b[0] - a[0]) * u, a[1] + (b[1] - a[1]) * u]
}
