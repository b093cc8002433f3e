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

export type Ride = Schemas['Ride']

/** A moving ground at a moment, as in rookery-core/src/motion/riding.rs. */
export interface RideNow {
  ground: number
  /** What it turns about: x and z. */
  about: [number, number]
  by: [number, number, number]
  /** Clockwise, radians. */
  turn: number
  /** Its acceleration and that one's change: east, south, clockwise. */
  pull: [number, number, number]
  slope: [number, number, number]
  /** For each key that is past the jump of its acceleration and the seconds since, then the change of its slope and nothing. */
  swings: number[]
}

const flat = (v: number[]): [number, number, number] => [v[0], v[2], v[3]]
const STILL = [0, 0, 0, 0]

/** Where a moving ground is at a time. */
export function rideAt({ ground, about_m, keys }: Ride, time: number): RideNow {
  const past = after(keys, time, (k) => k.time_s)
  const slope = (n: number): number[] => {
    const [a, b] = [keys[n], keys[n + 1]]
    return a && b ? b.pull.map((p, c) => (p - a.pull[c]) / (b.time_s - a.time_s)) : STILL
  }
  let [at, pull, now]: number[][] = [keys[Math.max(0, past - 1)].at, STILL, STILL]
  if (past > 0 && past < keys.length) {
    const [from, to] = [keys[past - 1], keys[past]]
    const long = to.time_s - from.time_s
    const b = (time - from.time_s) / long
    const a = 1 - b
    at = from.at.map((v, c) => a * v + b * to.at[c] + (((a * a * a - a) * from.pull[c] + (b * b * b - b) * to.pull[c]) * long * long) / 6)
    pull = from.pull.map((p, c) => a * p + b * to.pull[c])
    now = slope(past - 1)
  }
  const swings: number[] = []
  for (let n = 0; n < past; n++) {
    const jump = n === 0 ? keys[n].pull : n + 1 === keys.length ? keys[n].pull.map((p) => -p) : STILL
    const before = n > 0 ? slope(n - 1) : STILL
    const bends = slope(n).map((s, c) => s - before[c])
    swings.push(...flat(jump), time - keys[n].time_s, ...flat(bends), 0)
  }
  return { ground, about: about_m as [number, number], by: at.slice(0, 3) as [number, number, number], turn: at[3], pull: flat(pull), slope: flat(now), swings }
}
