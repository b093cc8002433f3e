import type { Schemas } from '../../api/client'
import { numbered } from '../../site/onGround'

export type Blower = Schemas['Blower']
export type Body = Schemas['Body']
export type Course = Schemas['Course']
export type PathNode = Schemas['PathNode']
export type BodyForm = Body['form']
/** Forms that are made without a file. */
export type ReadyForm = Exclude<BodyForm['kind'], 'mesh'>
export type MoverKind = 'blower' | ReadyForm

/** How fast a new path is gone along, m/s: a drone that looks about, a ball that rolls. */
export const PACE = { blower: 4, body: 3 }
/** How high above the ground a new blower is, metres. */
const OVER_M = 3

export const FORMS: Record<ReadyForm, { name: string; make: BodyForm }> = {
  ball: { name: 'Ball', make: { kind: 'ball', radius_m: 0.4 } },
  buoy: { name: 'Mooring buoy', make: { kind: 'buoy', radius_m: 0.55 } },
  barrel: { name: 'Barrel', make: { kind: 'barrel', radius_m: 0.35, length_m: 0.9 } },
  boulder: { name: 'Boulder', make: { kind: 'boulder', size_m: 1.2, form: 0 } },
}

/** What kind of body it is, in a word. */
export const formWord = (form: BodyForm) => (form.kind === 'mesh' ? 'Mesh' : FORMS[form.kind].name)

export const LOOSE: Schemas['Loose'] = {
  at_s: 0, velocity_m_per_s: [0, 0, 0], spin_rad_per_s: [0, 0, 0], density_kg_per_m3: 400, bounce: 0.3, friction: 0.7, wind_share: 0,
}

const round = (v: number) => Number(v.toFixed(2))

/** A course through points of the plan: one is a place, several are a path that is gone along evenly, within the time that is played. */
export function courseThrough(points: number[][], over_m: number, pace: number, length_s: number): Course {
  const at = ([x, z]: number[]) => ({ x_m: round(x), z_m: round(z), over_m })
  if (points.length === 1) return { kind: 'still', at: at(points[0]) }
  const far = points.map((p, i) => (i === 0 ? 0 : Math.hypot(p[0] - points[i - 1][0], p[1] - points[i - 1][1])))
  const whole = far.reduce((a, b) => a + b, 0)
  const took = Math.max(0.1 * points.length, Math.min(whole / pace, length_s))
  let gone = 0
  const nodes = points.map((p, i) => {
    gone += far[i]
    return { time_s: round((gone / Math.max(whole, 1e-6)) * took), ...at(p) }
  })
  // Points that lie on one another still follow one another.
  for (let i = 1; i < nodes.length; i++) nodes[i].time_s = round(Math.max(nodes[i].time_s, nodes[i - 1].time_s + 0.05))
  return { kind: 'path', nodes }
}

export function newBlower(points: number[][], id: number, others: Blower[], length_s: number): Blower {
  const course = courseThrough(points, OVER_M, PACE.blower, length_s)
  return { id, name: numbered('Blower', others), course, blows: { kind: 'outwards' }, speed_m_per_s: 12, reach_m: 8, falloff: 1, enabled: true }
}

export function newBody(form: BodyForm, points: number[][], id: number, others: Body[], length_s: number): Body {
  const course = courseThrough(points, 0, PACE.body, length_s)
  const name = form.kind === 'mesh' ? form.name.replace(/\.[^.]*$/, '') || 'Mesh' : FORMS[form.kind].name
  return { id, name: numbered(name, others), form, course, felt: true, hidden: false }
}

/** The nodes of a course; a place where it stays is one, at the start of time. */
export const nodesOf = (course: Course): PathNode[] => (course.kind === 'path' ? course.nodes : [{ time_s: 0, ...course.at }])

/** The same course with its nodes changed. */
export function withNodes(course: Course, change: (nodes: PathNode[]) => PathNode[]): Course {
  const nodes = change(nodesOf(course))
  if (nodes.length === 1) return { kind: 'still', at: { x_m: nodes[0].x_m, z_m: nodes[0].z_m, over_m: nodes[0].over_m } }
  return { kind: 'path', nodes }
}

/** A node taken to another time, between those before and after it. */
export function retimed<T extends { time_s: number }>(nodes: T[], at: number, time: number): T[] {
  const low = at > 0 ? nodes[at - 1].time_s + 0.05 : 0
  const high = at + 1 < nodes.length ? nodes[at + 1].time_s - 0.05 : 3600
  return nodes.map((n, i) => (i === at ? { ...n, time_s: round(Math.min(high, Math.max(low, time))) } : n))
}

/** A body with another course: it is not let go before its path ends. */
export function onCourse(body: Body, course: Course): Body {
  const end = course.kind === 'path' ? course.nodes.at(-1)!.time_s : 0
  return { ...body, course, loose: body.loose && { ...body.loose, at_s: course.kind === 'path' ? Math.max(body.loose.at_s, end) : body.loose.at_s } }
}
