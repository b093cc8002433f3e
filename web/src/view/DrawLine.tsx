import { useEffect, useState } from 'react'
import { KINDS, newObstacle, newOutline } from '../site/onGround'
import { moverAlong } from '../motion/movers/moverAlong'
import { freshId, useScene } from '../state/scene'
import { useUi, type Drawing } from '../state/ui'
import { useView } from '../state/view'
import { Button } from '../ui/Button'

/** Clicks nearer to one another than this are on one point, pixels of the page. */
const SAME_PX = 6

const fewestOf = (drawing: Drawing) => {
  switch (drawing.what) {
    case 'section':
      return 2
    case 'outline':
      return KINDS[drawing.kind].fewest
    case 'obstacle':
      return drawing.kind === 'wall' ? 2 : 1
    default:
      return 1
  }
}

/** Draws a line on the ground, point by point, and makes an outline, a wall, a section or a path of it. */
export function DrawLine({ drawing }: { drawing: Drawing }) {
  const { stage, clicked } = useView()
  useView((s) => s.frame)
  const pointer = useView((s) => s.pointer)
  const set = useUi((s) => s.set)
  const { run } = useScene.getState()
  const [points, setPoints] = useState<number[][]>([])
  const fewest = fewestOf(drawing)
  // What moves stands on one point, or goes along several.
  const goesOn = drawing.what === 'mover' || drawing.what === 'course'

  const finish = (line: number[][]) => {
    const { outlines = [], obstacles = [] } = useScene.getState().scene!.document
    if (drawing.what === 'section') {
      const [from, to] = [line[0], line.at(-1)!] as [number, number][]
      set({ drawing: null, section: { from, to, width_m: useUi.getState().section?.width_m ?? 3 } })
    } else if (drawing.what === 'outline') {
      const value = newOutline(drawing.kind, line, freshId(outlines), outlines)
      run({ do: 'put_outline', value })
      set({ drawing: null, chosen: { what: 'outline', id: value.id } })
    } else if (drawing.what === 'mover' || drawing.what === 'course') {
      set({ drawing: null, chosen: moverAlong(drawing, line) })
    } else {
      const value = newObstacle(drawing.kind, line, freshId(obstacles), obstacles, drawing)
      run({ do: 'put_obstacle', value })
      set({ drawing: null, chosen: { what: 'obstacle', id: value.id } })
    }
  }

  const onScreen = (p: number[]) => stage?.project({ x: p[0], y: stage.heightAt(p[0], p[1]) ?? 0, z: p[1] })

  useEffect(() => {
    if (!clicked) return
    const line = [...points, [clicked.x, clicked.z]]
    useView.getState().set({ clicked: null })
    // Once more on the last point ends the line, as a double click does.
    const [last, here] = [points.at(-1), onScreen([clicked.x, clicked.z])]
    const there = last && onScreen(last)
    if (there && here && Math.hypot(there.x - here.x, there.y - here.y) < SAME_PX) {
      if (points.length >= fewest) finish(points)
      return
    }
    if ((fewest === 1 && !goesOn) || (drawing.what === 'section' && line.length === 2)) finish(line)
    else setPoints(line)
  }, [clicked]) // eslint-disable-line react-hooks/exhaustive-deps

  useEffect(() => {
    const keys = (e: KeyboardEvent) => {
      if (e.key === 'Escape') set({ drawing: null })
      else if (e.key === 'Enter' && points.length >= fewest) finish(points)
      else if (e.key === 'Backspace') setPoints(points.slice(0, -1))
      else return
      e.preventDefault()
      e.stopPropagation()
    }
    window.addEventListener('keydown', keys, true)
    return () => window.removeEventListener('keydown', keys, true)
  })

  const shown = [...points, ...(pointer ? [[pointer.x, pointer.z]] : [])].map(onScreen).filter((p) => p != null)
  return (
    <>
      <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden>
        <polyline points={shown.map((p) => `${p.x},${p.y}`).join(' ')} fill="none" className="stroke-panel" strokeWidth="4" />
        <polyline points={shown.map((p) => `${p.x},${p.y}`).join(' ')} fill="none" className="stroke-thrift" strokeWidth="2" strokeDasharray="6 4" />
        {shown.slice(0, points.length).map((p, i) => (
          <circle key={i} cx={p.x} cy={p.y} r="4" className="fill-panel stroke-thrift" strokeWidth="2" />
        ))}
      </svg>
      <div className="absolute top-14 left-1/2 flex -translate-x-1/2 items-center gap-3 rounded-md border border-rule bg-panel px-3 py-1.5 shadow-lg" data-testid="drawing">
        <span>
          {goesOn ? `Click where it is; click on for a path, and a double click or Enter ends it. ${points.length} so far.` : fewest === 1 ? 'Click where it stands.' : drawing.what === 'section' ? 'Click where the section starts, then where it ends.' : `Click point after point; a double click or Enter ends the line, Backspace takes the last point back. ${points.length} so far.`}
        </span>
        {(fewest > 1 || goesOn) && (
          <Button look="primary" disabled={points.length < fewest} onClick={() => finish(points)}>
            Done
          </Button>
        )}
        <Button look="quiet" onClick={() => set({ drawing: null })}>
          Leave it
        </Button>
      </div>
    </>
  )
}
