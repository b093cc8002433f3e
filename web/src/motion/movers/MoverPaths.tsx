import type { Schemas } from '../../api/client'
import { useClock } from '../../state/clock'
import { useMotion } from '../../state/data'
import { useScene } from '../../state/scene'
import { useUi } from '../../state/ui'
import { useView } from '../../state/view'
import { Handles, type Handle } from '../../view/NodeHandles'
import type { Stage } from '../../view/stage/stage'
import { placeAt, type Place } from '../../view/stage/sway/ways'
import { nodesOf, onCourse, withNodes, type Course, type PathNode } from './movers'

/** Pieces that a way is drawn with, at most. */
const PIECES = 160
const round = (v: number) => Number(v.toFixed(2))

/** The ways of blowers and bodies over the view, at Motion; the chosen one can be taken hold of. */
export function MoverPaths() {
  const here = useUi((s) => s.station === 'motion' && !s.drawing)
  const { data } = useMotion()
  const stage = useView((s) => s.stage)
  const chosen = useUi((s) => s.chosen)
  // While it plays the picture is left clear, but for what is chosen.
  const playing = useClock((s) => s.playing)
  const blowers = useScene((s) => s.scene?.document.blowers) ?? []
  const bodies = useScene((s) => s.scene?.document.bodies) ?? []
  useView((s) => s.frame)
  if (!here || !stage || !data) return null
  const blower = chosen?.what === 'blower' ? blowers.find((b) => b.id === chosen.id) : undefined
  const body = chosen?.what === 'body' ? bodies.find((b) => b.id === chosen.id) : undefined
  const way = (places: Schemas['Place'][], below = 0) => {
    const every = Math.max(1, Math.ceil(places.length / PIECES))
    const some = places.filter((_, i) => i % every === 0 || i === places.length - 1)
    return some.map(({ at_m: [x, y, z] }) => stage.project({ x, y: y - below, z })).filter((p) => p !== null).map((p) => `${p.x.toFixed(1)},${p.y.toFixed(1)}`).join(' ')
  }
  return (
    <>
      <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden data-testid="mover-paths">
        {data.moving.blowers.filter((b) => !playing || b.id === blower?.id).map((b) => (
          <g key={`blower ${b.id}`}>
            <Way points={way(b.places)} chosen={b.id === blower?.id} dash="2 5" />
            <BlowerMark stage={stage} track={b} chosen={b.id === blower?.id} />
          </g>
        ))}
        {data.moving.bodies.filter((b) => !playing || b.id === body?.id).map((b) => <Way key={`body ${b.id}`} points={way(b.places, b.below_m)} chosen={b.id === body?.id} dash="7 4" />)}
      </svg>
      {blower && (
        <Handles handles={handles(stage, blower.name, blower.course, (course) => ({ do: 'put_blower', value: { ...blower, course } }))} />
      )}
      {body && <Handles handles={handles(stage, body.name, body.course, (course) => ({ do: 'put_body', value: onCourse(body, course) }))} />}
    </>
  )
}

function Way({ points, chosen, dash }: { points: string; chosen: boolean; dash: string }) {
  return (
    <>
      <polyline points={points} fill="none" className="stroke-panel" strokeWidth={chosen ? 4.5 : 3} strokeOpacity="0.6" />
      <polyline points={points} fill="none" className={chosen ? 'stroke-thrift' : 'stroke-sea'} strokeWidth={chosen ? 2 : 1.4} strokeDasharray={dash} />
    </>
  )
}

/** Where a blower is at the moment, and how far it reaches over the ground beneath it. */
function BlowerMark({ stage, track, chosen }: { stage: Stage; track: Schemas['BlowerTrack']; chosen: boolean }) {
  const time = useClock((s) => s.time)
  const [x, y, z] = placeAt(track.places as Place[], time).at_m
  const at = stage.project({ x, y, z })
  const ground = stage.heightAt(x, z)
  const wide = ground === null ? 0 : Math.sqrt(Math.max(0, track.reach_m ** 2 - (y - ground) ** 2))
  const foot = ground === null ? null : stage.project({ x, y: ground, z })
  return (
    <g className={chosen ? 'stroke-thrift' : 'stroke-sea'} fill="none">
      {ground !== null && wide > 0 && <path d={stage.ringOnGround({ x, y: ground, z }, wide, 72)} strokeWidth="1.4" strokeDasharray="3 4" />}
      {at && foot && <line x1={at.x} y1={at.y} x2={foot.x} y2={foot.y} strokeWidth="1" strokeDasharray="1 3" />}
      {at && <circle cx={at.x} cy={at.y} r="5" strokeWidth="1.8" className="fill-panel" />}
    </g>
  )
}

function handles(stage: Stage, name: string, course: Course, put: (course: Course) => ReturnType<Handle['moved']>): Handle[] {
  const nodes = nodesOf(course)
  const { run } = useScene.getState()
  const at = (n: PathNode) => {
    const ground = stage.heightAt(n.x_m, n.z_m) ?? 0
    return { x: n.x_m, z: n.z_m, y: n.over_m > 0 ? ground + n.over_m : undefined }
  }
  const moved = (i: number) => ({ x, z }: { x: number; z: number }) =>
    put(withNodes(course, (list) => list.map((n, k) => (k === i ? { ...n, x_m: round(x), z_m: round(z) } : n))))
  const own = nodes.map((n, i): Handle => ({
    key: `path-node-${i}`, label: `Node ${i + 1} of the way of ${name}; drag to move, Delete to remove`, ...at(n), moved: moved(i),
    remove: nodes.length > 1 ? () => run(put(withNodes(course, (list) => list.filter((_, k) => k !== i)))) : undefined,
  }))
  const middles = nodes.slice(1).map((b, i): Handle => {
    const a = nodes[i]
    const half: PathNode = {
      time_s: round((a.time_s + b.time_s) / 2), x_m: (a.x_m + b.x_m) / 2, z_m: (a.z_m + b.z_m) / 2, over_m: (a.over_m + b.over_m) / 2,
    }
    return {
      key: `path-middle-${i}`, label: `Put a node in after node ${i + 1}`, ...at(half), small: true,
      moved: ({ x, z }) => put(withNodes(course, (list) => [...list.slice(0, i + 1), { ...half, x_m: round(x), z_m: round(z) }, ...list.slice(i + 1)])),
    }
  })
  return [...middles, ...own]
}
