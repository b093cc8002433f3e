import { useRef, type PointerEvent } from 'react'
import type { Obstacle, Outline, PlacedGround, WaterPlane } from '../api/client'
import { insertNode, moveNode, removeNode } from '../site/onGround'
import { useScene } from '../state/scene'
import { useView } from '../state/view'

export interface Handle {
  key: string
  label: string
  x: number
  z: number
  /** Its own height, metres; on the land when left out. */
  y?: number
  small?: boolean
  /** The command for this handle dragged to a place. */
  moved(to: { x: number; z: number }): Parameters<ReturnType<typeof useScene.getState>['run']>[0]
  remove?(): void
}

interface HandlesProps {
  outline?: Outline
  obstacle?: Obstacle
  ground?: PlacedGround
  water?: WaterPlane
}

/** What can be taken hold of on the chosen outline or obstacle: its nodes, or the place where it stands. */
export function NodeHandles({ outline, obstacle, ground, water }: HandlesProps) {
  const { run } = useScene.getState()
  const placed = ground ?? water
  const handles = outline ? outlineHandles(outline) : obstacle ? [standHandle(obstacle)] : placed ? [placeHandle(placed, ground)] : []
  return <Handles handles={handles} />

  function outlineHandles(o: Outline): Handle[] {
    const put = (value: Outline) => ({ do: 'put_outline' as const, value })
    const nodes = o.nodes.map(([x, z], i): Handle => ({
      key: `node-${i}`, label: `Node ${i + 1} of ${o.name}; drag to move, Delete to remove`, x, z,
      moved: (to) => put(moveNode(o, i, to)),
      remove: () => {
        const value = removeNode(o, i)
        if (value) run(put(value))
      },
    }))
    const pieces = o.kind === 'track' ? o.nodes.length - 1 : o.nodes.length
    const middles = Array.from({ length: pieces }, (_, i): Handle => {
      const [[ax, az], [bx, bz]] = [o.nodes[i], o.nodes[(i + 1) % o.nodes.length]]
      return {
        key: `middle-${i}`, label: `Put a node in after node ${i + 1}`, x: (ax + bx) / 2, z: (az + bz) / 2, small: true,
        moved: (to) => put(moveNode(insertNode(o, i), i + 1, to)),
      }
    })
    return [...middles, ...nodes]
  }
}

/** Round handles over the view, dragged over the ground or on a level of their own. */
export function Handles({ handles }: { handles: Handle[] }) {
  const stage = useView((s) => s.stage)
  useView((s) => s.frame)
  const { run } = useScene.getState()
  const held = useRef<{ handle: Handle; gesture: string } | null>(null)

  const down = (handle: Handle) => (e: PointerEvent<SVGElement>) => {
    e.stopPropagation()
    e.currentTarget.setPointerCapture(e.pointerId)
    held.current = { handle, gesture: crypto.randomUUID() }
  }
  const move = (e: PointerEvent<SVGElement>) => {
    if (!held.current || !stage) return
    const box = e.currentTarget.ownerSVGElement!.getBoundingClientRect()
    const { handle } = held.current
    const [x, y] = [e.clientX - box.left, e.clientY - box.top]
    // What has a height of its own is moved on the level of it, all else on the land.
    const to = handle.y === undefined ? stage.pick(x, y, 0) : stage.pickLevel(x, y, handle.y)
    if (to) run(handle.moved(to), held.current.gesture, 'handle')
  }
  const up = () => (held.current = null)

  return (
    <svg className="pointer-events-none absolute inset-0 size-full" role="group" aria-label="Handles">
      {handles.map((handle) => {
        const y = handle.y ?? stage?.heightAt(handle.x, handle.z)
        const at = y != null ? stage!.project({ x: handle.x, y, z: handle.z }) : null
        if (!at) return null
        return (
          <circle
            key={handle.key}
            cx={at.x}
            cy={at.y}
            r={handle.small ? 4 : 6.5}
            tabIndex={0}
            role="button"
            aria-label={handle.label}
            data-testid={handle.key}
            className={`pointer-events-auto cursor-move stroke-thrift outline-none focus-visible:stroke-ink ${handle.small ? 'fill-thrift-wash' : 'fill-panel'}`}
            strokeWidth={handle.small ? 1.2 : 2.2}
            onPointerDown={down(handle)}
            onPointerMove={move}
            onPointerUp={up}
            onPointerCancel={up}
            onDoubleClick={handle.remove}
            onKeyDown={(e) => {
              if (e.key === 'Delete' || e.key === 'Backspace') handle.remove?.()
            }}
          />
        )
      })}
    </svg>
  )
}

function placeHandle(p: PlacedGround | WaterPlane, ground?: PlacedGround): Handle {
  const round = (v: number) => Number(v.toFixed(2))
  return {
    key: 'place', label: `Where ${p.name} lies; drag to move`, x: p.x_m, z: p.z_m, y: ground ? ground.y_m : (p as WaterPlane).height_m,
    moved: ({ x, z }) =>
      ground
        ? { do: 'put_ground', value: { ...ground, x_m: round(x), z_m: round(z) } }
        : { do: 'put_water', value: { ...(p as WaterPlane), x_m: round(x), z_m: round(z) } },
  }
}

function standHandle(o: Obstacle): Handle {
  return {
    key: 'stand', label: `Where ${o.name} stands; drag to move`, x: o.x_m, z: o.z_m,
    moved: ({ x, z }) => ({ do: 'put_obstacle', value: { ...o, x_m: Number(x.toFixed(2)), z_m: Number(z.toFixed(2)) } }),
  }
}
