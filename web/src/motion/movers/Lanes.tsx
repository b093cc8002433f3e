import { useRef, type PointerEvent } from 'react'
import { useScene } from '../../state/scene'
import { useUi } from '../../state/ui'
import { onCourse, retimed, withNodes, type Course } from './movers'
import { setKeys } from './rides'

/** How far the middle of the slider's thumb keeps from the ends of its track, pixels. */
export const THUMB_PX = 8

interface Lane {
  what: 'blower' | 'body' | 'ground'
  id: number
  name: string
  /** What a key of it is called. */
  key: 'Node' | 'Key'
  times: number[]
  looseAt?: number
  /** Takes a key to another time. */
  retime(at: number, time: number, gesture: string): void
  letGo?(time: number, gesture: string): void
}

const timesOf = (course: Course) => (course.kind === 'path' ? course.nodes.map((n) => n.time_s) : [])

/** All that has times: a lane each, with keys that can be dragged. */
export function useLanes(): Lane[] {
  const blowers = useScene((s) => s.scene!.document.blowers) ?? []
  const bodies = useScene((s) => s.scene!.document.bodies) ?? []
  const grounds = useScene((s) => s.scene!.document.grounds) ?? []
  const { run } = useScene.getState()
  const moved = (course: Course, at: number, time: number) => withNodes(course, (list) => retimed(list, at, time))
  const ofBlowers = blowers
    .filter((b) => b.enabled && b.course.kind === 'path')
    .map((b): Lane => ({
      what: 'blower', id: b.id, name: b.name, key: 'Node', times: timesOf(b.course),
      retime: (at, time, gesture) => run({ do: 'put_blower', value: { ...b, course: moved(b.course, at, time) } }, gesture, `blower ${b.id} times`),
    }))
  const ofBodies = bodies
    .filter((b) => !b.hidden && (b.course.kind === 'path' || b.loose))
    .map((b): Lane => ({
      what: 'body', id: b.id, name: b.name, key: 'Node', times: timesOf(b.course), looseAt: b.loose?.at_s,
      retime: (at, time, gesture) => run({ do: 'put_body', value: onCourse(b, moved(b.course, at, time)) }, gesture, `body ${b.id} times`),
      letGo: (at_s, gesture) => run({ do: 'change', what: { of: 'body', id: b.id }, fields: { loose: { at_s } } }, gesture, `body ${b.id} let go`),
    }))
  const ofGrounds = grounds
    .filter((g) => !g.hidden && g.moves)
    .map((g): Lane => ({
      what: 'ground', id: g.id, name: g.name, key: 'Key', times: g.moves!.keys.map((k) => k.time_s),
      retime: (at, time, gesture) => setKeys(g.id, retimed(g.moves!.keys, at, time), gesture),
    }))
  return [...ofBlowers, ...ofBodies, ...ofGrounds]
}

/** The keys of one lane, on the scale of the slider above it. */
export function LaneKeys({ lane, length }: { lane: Lane; length: number }) {
  const held = useRef<{ at: number; gesture: string } | null>(null)
  const track = useRef<HTMLDivElement>(null)
  const chosen = useUi((s) => s.chosen?.what === lane.what && s.chosen.id === lane.id)
  const { times } = lane
  const earliest = times.at(-1) ?? 0
  const set = (at: number, time: number, gesture: string) => {
    if (at < 0) lane.letGo?.(Number(Math.min(3600, Math.max(earliest, time)).toFixed(2)), gesture)
    else lane.retime(at, time, gesture)
  }
  const down = (at: number) => (e: PointerEvent<HTMLElement>) => {
    e.currentTarget.setPointerCapture(e.pointerId)
    held.current = { at, gesture: crypto.randomUUID() }
    useUi.setState({ chosen: { what: lane.what, id: lane.id } })
  }
  const move = (e: PointerEvent<HTMLElement>) => {
    if (!held.current || !track.current) return
    const box = track.current.getBoundingClientRect()
    set(held.current.at, ((e.clientX - box.left) / box.width) * length, held.current.gesture)
  }
  const left = (time: number) => `${(Math.min(time, length) / length) * 100}%`
  const key = (at: number, time: number, label: string, shape: string) => (
    <button
      key={at} type="button" aria-label={`${label} of ${lane.name}, at ${time.toFixed(2)} s; drag, or the arrow keys, for another time`} data-testid={`key-${lane.what}-${lane.id}-${at}`}
      title={`${time.toFixed(2)} s`} style={{ left: left(time) }}
      className={`group absolute top-0 flex h-full w-3 -translate-x-1/2 cursor-ew-resize touch-none items-center justify-center outline-offset-0`}
      onPointerDown={down(at)} onPointerMove={move} onPointerUp={() => (held.current = null)} onPointerCancel={() => (held.current = null)}
      onKeyDown={(e) => {
        const by = { ArrowLeft: -0.1, ArrowRight: 0.1 }[e.key]
        if (!by) return
        e.preventDefault()
        set(at, time + by, crypto.randomUUID())
      }}
    >
      {/* A short upright tick; where a body is let go, a round one. */}
      <span className={`${shape} ${chosen ? 'bg-thrift' : 'bg-sea'} group-hover:ring-2 group-hover:ring-thrift-wash`} />
    </button>
  )
  return (
    <div className="relative mx-2 h-5" style={{ paddingInline: THUMB_PX }}>
      <div ref={track} className="relative h-full">
        {times.length > 1 && <span className="absolute top-1/2 h-0.5 -translate-y-1/2 bg-sea/50" style={{ left: left(times[0]), right: `calc(100% - ${left(earliest)})` }} />}
        {lane.looseAt !== undefined && <span className="absolute top-1/2 right-0 border-t border-dashed border-sea/60" style={{ left: left(lane.looseAt) }} />}
        {times.map((time, i) => key(i, time, `${lane.key} ${i + 1}`, 'h-3 w-[3px] rounded-sm'))}
        {lane.looseAt !== undefined && key(-1, lane.looseAt, 'Where it is let go', 'size-2 rounded-full')}
      </div>
    </div>
  )
}
