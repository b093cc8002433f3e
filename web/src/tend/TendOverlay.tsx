import { useRef, type PointerEvent } from 'react'
import { usePlants, useSpecies } from '../state/data'
import { useLayer, useScene } from '../state/scene'
import { useView } from '../state/view'
import { useHand, type InHand, type Tended } from './hand'
import { ringOf } from './picking'
import { moveBy, pose, toScene } from './tending'

/** Pennants at all that was tended, outlines and handles at what is in hand, and the line drawn around plants. */
export function TendOverlay() {
  const hand = useHand()
  const layer = useLayer(hand.layer)
  const stage = useView((s) => s.stage)
  useView((s) => s.frame)
  const grounds = useScene((s) => s.scene?.document.grounds) ?? []
  const { data: plants } = usePlants(layer)
  const { data: species } = useSpecies()
  const drag = useRef<{ what: 'move' | 'turn' | 'size'; from: InHand[]; gesture: string; x: number; y: number; last: number } | null>(null)
  if (!layer || !stage || !plants) return null

  const body = (id: string) => species?.find((s) => s.id === id)
  const seen = (t: Tended) => {
    const p = toScene(grounds.find((g) => g.id === (t.ground ?? 0)), t.at_m)
    // On a terrain the height is that of the ground now.
    return stage.project((t.ground ?? 0) === 0 ? { ...p, y: stage.heightAt(p.x, p.z) ?? p.y } : p)
  }
  const inHand = hand.items.slice(0, 400).flatMap((i) => {
    const at = stage.project(i.at)
    const kind = i.tended.plant && body(i.tended.plant.species)
    if (!at || !kind) return []
    const size = i.tended.plant!.size
    const top = stage.project({ ...i.at, y: i.at.y + kind.height_m * size }) ?? at
    const side = stage.project({ ...i.at, x: i.at.x + kind.radius_m * size }) ?? at
    return [{ at, top, wide: Math.max(5, Math.hypot(side.x - at.x, side.y - at.y)) }]
  })
  const middle = inHand.length > 0 ? { x: mean(inHand.map((i) => i.at.x)), y: mean(inHand.map((i) => i.at.y)) } : null
  const ring = Math.min(90, Math.max(26, ...inHand.map((i) => i.wide + 12)))
  const tip = middle && { x: middle.x, y: Math.min(middle.y - 34, ...inHand.map((i) => i.top.y - 12)) }

  const box = (e: PointerEvent<SVGElement>) => e.currentTarget.ownerSVGElement!.getBoundingClientRect()
  const down = (what: 'move' | 'turn' | 'size') => (e: PointerEvent<SVGElement>) => {
    e.stopPropagation()
    e.currentTarget.setPointerCapture(e.pointerId)
    const { left, top } = box(e)
    drag.current = { what, from: hand.items, gesture: crypto.randomUUID(), x: e.clientX - left, y: e.clientY - top, last: 0 }
  }
  const move = (e: PointerEvent<SVGElement>) => {
    const held = drag.current
    if (!held || !middle) return
    const { left, top } = box(e)
    const [x, y] = [e.clientX - left, e.clientY - top]
    if (held.what === 'move') {
      const [a, b] = [stage.pick(held.x, held.y), stage.pick(x, y)]
      if (a && b) moveBy(layer, held.from, b.x - a.x, b.z - a.z, held.gesture)
      return
    }
    const from = (px: number, py: number) => (Math.atan2(px - middle.x, middle.y - py) * 180) / Math.PI
    const value = held.what === 'turn' ? from(x, y) - from(held.x, held.y) : 2 ** ((held.y - y) / 90)
    const first = held.from
    let k = 0
    pose(
      layer,
      () => {
        const was = first[k++]?.tended.plant
        if (!was) return {}
        return held.what === 'turn' ? { turn_deg: wrapped(was.turn_deg + value) } : { size: Number(Math.min(100, Math.max(0.01, was.size * value)).toFixed(3)) }
      },
      held.gesture,
    )
  }
  const up = () => (drag.current = null)
  const handle = (what: 'move' | 'turn' | 'size', label: string) => ({
    role: 'button', tabIndex: 0, 'aria-label': label, 'data-testid': `tend-${what}`,
    className: 'pointer-events-auto cursor-grab fill-panel stroke-thrift outline-none focus-visible:stroke-ink', strokeWidth: 2,
    onPointerDown: down(what), onPointerMove: move, onPointerUp: up, onPointerCancel: up,
  })

  return (
    <svg className="pointer-events-none absolute inset-0 size-full" role="group" aria-label="Tending" data-testid="tending" data-in-hand={hand.items.length}>
      {(layer.tended ?? []).slice(0, 2000).map((t) => {
        const at = seen(t)
        if (!at) return null
        return (
          <g key={t.id} transform={`translate(${at.x.toFixed(1)} ${at.y.toFixed(1)})`} data-testid="pennant">
            <path d="M0 0V-15" className="stroke-panel" strokeWidth="3.6" strokeLinecap="round" />
            <path d="M0 0V-15" className="stroke-ink" strokeWidth="1.4" strokeLinecap="round" />
            {t.plant ? (
              <path d="M0-15 9-12 0-9Z" className="fill-thrift stroke-panel" strokeWidth="0.8" />
            ) : (
              <circle cy="-13" r="3" className="fill-panel stroke-ink" strokeWidth="1.4" />
            )}
          </g>
        )
      })}
      {inHand.map((i, k) => (
        <g key={k}>
          <ellipse cx={i.at.x} cy={i.at.y} rx={i.wide} ry={i.wide * 0.45} fill="none" className="stroke-panel" strokeWidth="4" />
          <ellipse cx={i.at.x} cy={i.at.y} rx={i.wide} ry={i.wide * 0.45} fill="none" className="stroke-thrift" strokeWidth="2" />
          <path d={`M${i.at.x} ${i.at.y}L${i.top.x} ${i.top.y}`} className="stroke-thrift" strokeWidth="1.2" strokeDasharray="3 3" />
        </g>
      ))}
      {hand.line.length > 1 && <path d={`M${ringOf(hand.line).map((p) => `${p.x} ${p.y}`).join('L')}Z`} className="fill-thrift/10 stroke-thrift" strokeWidth="1.6" strokeDasharray="5 4" />}
      {middle && tip && (
        <>
          <path d={arc(middle, ring)} fill="none" className="stroke-panel" strokeWidth="4.5" />
          <path d={arc(middle, ring)} fill="none" className="stroke-thrift" strokeWidth="1.8" />
          <circle cx={middle.x + ring * Math.SQRT1_2} cy={middle.y + ring * Math.SQRT1_2} r="6" {...handle('turn', 'Turn: drag around')} />
          <path d={`M${tip.x - 6} ${tip.y + 5}h12l-6-11z`} {...handle('size', 'Size: drag up or down')} />
          <rect x={middle.x - 6} y={middle.y - 6} width="12" height="12" rx="3" {...handle('move', 'Move along the ground: drag')} />
        </>
      )}
    </svg>
  )
}

const mean = (values: number[]) => values.reduce((sum, v) => sum + v, 0) / values.length
const wrapped = (deg: number) => Number((((deg + 540) % 360) - 180).toFixed(2))

/** A quarter of a ring, about the turn handle. */
function arc(at: { x: number; y: number }, r: number): string {
  const end = (deg: number) => `${(at.x + r * Math.cos((deg * Math.PI) / 180)).toFixed(1)} ${(at.y + r * Math.sin((deg * Math.PI) / 180)).toFixed(1)}`
  return `M${end(5)}A${r} ${r} 0 0 1 ${end(85)}`
}
