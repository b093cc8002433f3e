import { useIsFetching } from '@tanstack/react-query'
import { useEffect, useRef, type PointerEvent, type RefObject } from 'react'
import type { GroundBuffer } from '../api/buffers'
import { useGround } from '../state/data'
import { useScene, useShot } from '../state/scene'
import { useUi } from '../state/ui'
import { useView } from '../state/view'
import { Asked } from './Asked'
import { Growing } from './Growing'
import { Furniture } from './Furniture'
import { LayerFeed } from './LayerFeed'
import { sampleAt } from './stage/grid'
import { setLight } from './stage/light'
import { Stage } from './stage/stage'
import { contourStep } from './contours'
import { Legend } from './Legend'
import { useLaid, useOverlay } from './useOverlay'
import { BeyondFeed } from './BeyondFeed'
import { NapFeed } from './NapFeed'
import { TexturesFeed } from './TexturesFeed'
import { SkyAndSeaFeed } from './SkyAndSeaFeed'
import { SoilsFeed } from './SoilsFeed'
import { DrawLine } from './DrawLine'
import { MoverPaths } from '../motion/movers/MoverPaths'
import { NodeHandles } from './NodeHandles'
import { ObstacleFeed } from './ObstacleFeed'
import { Pins } from './Pins'
import { PlacedFeed } from './PlacedFeed'
import { SectionLine } from './SectionLine'
import { useOutlines } from './useOutlines'
import { BrushRing } from './brush/BrushRing'
import { pressureOf } from '../sheet/masks/painting'
import { usePaint } from './brush/usePaint'
import { useSculpt } from './brush/useSculpt'
import { useHand } from '../tend/hand'
import { DriftLines } from '../tend/DriftLines'
import { lensOf } from '../shots/through'
import { MotionFeed } from '../motion/MotionFeed'
import { ShotFrame } from './ShotFrame'
import { Start } from '../profile/Start'
import { TendOverlay } from '../tend/TendOverlay'
import { useTend } from '../tend/useTend'

/** Whether a camera placed for one ground would stand in or far off another. */
function elsewhere(a: GroundBuffer, b: GroundBuffer): boolean {
  const height = Math.max(a.high_m - a.low_m, b.high_m - b.low_m)
  const moved = Math.abs((a.high_m + a.low_m - b.high_m - b.low_m) / 2) > height * 0.5
  return moved || a.size_m.some((s, i) => Math.abs(s - b.size_m[i]) > s * 0.2)
}

/** The landscape, and the marks of a map around it. */
const WITHOUT_LAND = 'What is drawn lies on the land, and this scene does without it. Site, Grounds brings it back.'

export function View() {
  const host = useRef<HTMLDivElement>(null)
  const canvas = useRef<HTMLCanvasElement>(null)
  const pressed = useRef<{ x: number; y: number } | null>(null)
  const stage = useView((s) => s.stage)
  const setView = useView((s) => s.set)
  const frame = useView((s) => s.frame)
  const layers = useScene((s) => s.scene?.document.layers)
  const { mode, contours, probing, shot: shotId, rest } = useUi()
  const sculpting = useUi((s) => (s.station === 'site' ? s.sculpting : null))
  const sculpt = useSculpt(sculpting)
  const painting = useUi((s) => (s.station === 'planting' ? s.painting : null))
  const paint = usePaint(painting)
  const tend = useTend()
  const drawing = useUi((s) => (s.station === (s.drawing?.what === 'mover' || s.drawing?.what === 'course' ? 'motion' : 'site') || s.drawing?.what === 'section' ? s.drawing : null))
  const chosen = useUi((s) => (s.station === 'site' ? s.chosen : null))
  const outlines = useScene((s) => s.scene?.document.outlines)
  const obstacles = useScene((s) => s.scene?.document.obstacles)
  const placedGrounds = useScene((s) => s.scene?.document.grounds)
  const waters = useScene((s) => s.scene?.document.waters)
  const absent = useScene((s) => s.scene?.document.ground.absent) ?? false
  const shot = useShot(shotId)
  const say = useScene((s) => s.say)
  const { data: ground, error } = useGround()
  // Names the ground that is drawn, for those who time the view.
  const groundKey = useScene((s) => (ground ? s.scene?.ground_key : undefined))

  useEffect(() => {
    const made = new Stage(canvas.current!, (f) => useView.getState().set({ frame: f }))
    setView({ stage: made })
    // For checks of what the graphics computed, from outside the page.
    Object.assign(canvas.current!, { turned: (id: string) => made.turned(id) })
    const watch = new ResizeObserver(([entry]) => made.resize(entry.contentRect.width, entry.contentRect.height))
    watch.observe(host.current!)
    return () => {
      watch.disconnect()
      made.dispose()
      setView({ stage: null })
    }
  }, [setView])

  useEffect(() => stage?.setMode(mode), [stage, mode])
  const strewing = useHand((s) => s.layer !== null && (s.way === 'strew' || s.way === 'erase'))
  const drawingAround = useHand((s) => s.layer !== null && s.way === 'around') || strewing
  const handM = useHand((s) => (s.layer === null ? null : s.way === 'erase' ? s.eraseM : null))
  const previewShare = useUi((s) => s.previewShare)
  useEffect(() => stage?.preview(previewShare), [stage, previewShare])
  useEffect(() => stage?.setRest(rest), [stage, rest])
  useEffect(() => stage?.holdStill(sculpting !== null || painting !== null || drawingAround), [stage, sculpting, painting, drawingAround])

  useEffect(() => {
    if (!stage || !ground) return
    stage.setGround(ground)
    stage.setContours(contours ? contourStep(ground) : 0)
  }, [stage, ground, contours])

  // Light comes from the shot.
  const light = shot && `${shot.sun_azimuth_deg} ${shot.sun_elevation_deg} ${shot.overcast} ${shot.clouds ?? 0}`
  useEffect(() => {
    if (!stage || !shot) return
    setLight(shot)
    stage.draw()
  }, [stage, light]) // eslint-disable-line react-hooks/exhaustive-deps

  // The first shot gives the first look; later ones are gone to by hand. A ground of another shape is looked at whole.
  const placed = useRef<string | null>(null)
  const shape = useRef<GroundBuffer | undefined>(undefined)
  const sceneId = useScene((s) => s.scene?.id)
  useEffect(() => {
    if (!stage || !ground || !sceneId) return
    const known = shape.current
    shape.current = ground
    if (placed.current === sceneId) {
      if (known && known !== ground && elsewhere(known, ground)) stage.frameGround()
      return
    }
    placed.current = sceneId
    if (shot) stage.look(shot, lensOf(shot))
    else stage.frameGround()
  }, [stage, ground, sceneId, shot])

  // A scene that is to do without its land is looked at whole anew.
  const hadLand = useRef(!absent)
  useEffect(() => {
    stage?.showLand(!absent)
    if (stage && absent && hadLand.current) stage.frameGround()
    hadLand.current = !absent
  }, [stage, absent])
  useEffect(() => stage?.setWaters(waters ?? []), [stage, waters])

  useOutlines(stage, ground)
  const laid = useLaid(ground)
  useOverlay(stage, laid, ground)

  const pointAt = (e: PointerEvent) => {
    const box = host.current!.getBoundingClientRect()
    // Lines belong to the land, and a stroke to the ground that it was begun on.
    const only = sculpt.on() ?? (drawing !== null && drawing.what !== 'section' ? 0 : null)
    return stage?.pick(e.clientX - box.left, e.clientY - box.top, only) ?? null
  }
  const inView = (e: PointerEvent) => {
    const box = host.current!.getBoundingClientRect()
    return { x: e.clientX - box.left, y: e.clientY - box.top }
  }
  const landLaid = (p: { x: number; z: number }) => {
    const values = laid?.over.get(0)
    return values && ground ? sampleAt(ground, values, p.x, p.z) : null
  }
  const hover = (e: PointerEvent) => {
    if (!ground) return
    const [sculpts, paints] = [sculpt.held(), paint.held()]
    const tends = tend.held()
    if (tends) tend.lead(inView(e), strewing ? pointAt(e) : null)
    if (e.buttons !== 0 && !sculpts && !paints && !tends) return
    const p = pointAt(e)
    if (sculpts) sculpt.lead(p)
    if (paints) paint.lead(p, pressureOf(e))
    setView({ pointer: p && { ...p, laid: p.ground === 0 ? landLaid(p) : p.laid } })
  }
  const press = (e: PointerEvent) => {
    // Buttons and handles over the landscape are not the landscape.
    if (e.target !== canvas.current) return
    pressed.current = { x: e.clientX, y: e.clientY }
    if (e.button === 0 && tend.on && tend.begin(inView(e), pointAt(e))) return e.currentTarget.setPointerCapture(e.pointerId)
    if (e.button !== 0 || (!sculpting && !painting)) return
    const p = pointAt(e)
    if (p && (sculpt.begin(p, e.shiftKey) || paint.begin(p, e.shiftKey, pressureOf(e)))) e.currentTarget.setPointerCapture(e.pointerId)
  }
  const release = (e: PointerEvent) => {
    if (sculpt.end() || paint.end() || (tend.held() && tend.end(e.shiftKey))) return

    const from = pressed.current
    pressed.current = null
    if (!from || e.button !== 0 || Math.hypot(e.clientX - from.x, e.clientY - from.y) > 4) return
    if (drawing) {
      const p = pointAt(e)
      // Said, or a click that does nothing would seem to be lost.
      if (!p && drawing.what !== 'section') say(absent ? WITHOUT_LAND : 'What is drawn lies on the land: click on it')
      setView({ clicked: p })
    }
    else if (tend.on) tend.click(inView(e), pointAt(e), e.shiftKey)
    else if (probing) setView({ asked: pointAt(e) })
  }

  return (
    <section
      ref={host}
      aria-label="View"
      data-testid="view"
      data-plants={frame?.plants ?? 0}
      data-triangles={frame?.triangles ?? 0}
      data-settled={frame?.settled ?? false}
      data-frame={frame?.number}
      data-refined={frame?.refined ?? 0}
      data-refining={frame?.refining ?? false}
      data-nap={frame?.nap ?? 0}
      data-ground={groundKey}
      data-frame-ms={frame ? Math.round(frame.ms) : undefined}
      className={`relative min-h-0 min-w-0 flex-1 overflow-hidden bg-well ${probing ? 'cursor-help' : 'cursor-crosshair'}`}
      onPointerMove={hover}
      onPointerLeave={() => setView({ pointer: null })}
      onPointerDown={press}
      onPointerCancel={() => sculpt.end() || paint.end() || tend.end(false)}
      onPointerUp={release}
    >
      <canvas
        ref={canvas}
        tabIndex={0}
        aria-label="The landscape. Drag to move, right-drag to turn, wheel to come nearer."
        className="absolute inset-0 block size-full outline-none"
      />
      {layers?.map((l) => <LayerFeed key={l.id} layer={l} />)}
      {obstacles?.map((o) => <ObstacleFeed key={o.id} obstacle={o} />)}
      <BeyondFeed />
      <TexturesFeed />
      <NapFeed />
      <SkyAndSeaFeed />
      <SoilsFeed />
      {placedGrounds?.map((g) => <PlacedFeed key={g.id} ground={g} />)}
      {chosen && !drawing && (
        <NodeHandles
          outline={chosen.what === 'outline' ? outlines?.find((o) => o.id === chosen.id) : undefined}
          obstacle={chosen.what === 'obstacle' ? obstacles?.find((o) => o.id === chosen.id) : undefined}
          ground={chosen.what === 'ground' ? placedGrounds?.find((g) => g.id === chosen.id) : undefined}
          water={chosen.what === 'water' ? waters?.find((w) => w.id === chosen.id) : undefined}
        />
      )}
      <MotionFeed />
      <MoverPaths />
      <ShotFrame />
      <Busy host={host} />
      <Furniture ground={ground} laid={laid} />
      <Legend laid={laid} />
      {painting && <BrushRing radiusM={painting.radius_m} falloff={painting.falloff} />}
      {sculpting && <BrushRing radiusM={sculpting.radius_m} falloff={sculpting.falloff} />}
      {handM !== null && <BrushRing radiusM={handM} falloff={0} />}
      <SectionLine />
      {drawing && <DrawLine key={JSON.stringify(drawing)} drawing={drawing} />}
      <TendOverlay />
      <DriftLines />
      <Growing />
      <Start />
      <Asked />
      <Pins />
      {error && (error as { code?: string }).code !== 'outdated' && (
        <p role="alert" className="absolute inset-x-16 top-16 rounded-md border border-iron bg-iron-wash px-4 py-3 text-ink">
          {error.message}
        </p>
      )}
    </section>
  )
}

/** Tells that something of the picture is still on its way. By itself, so that the view is not built anew with every answer. */
function Busy({ host }: { host: RefObject<HTMLElement | null> }) {
  const waiting = useIsFetching() > 0
  useEffect(() => host.current?.setAttribute('aria-busy', String(waiting)), [host, waiting])
  return null
}
