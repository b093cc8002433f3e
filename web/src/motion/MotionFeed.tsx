import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useEffect } from 'react'
import { decodeMesh } from '../api/buffers'
import { fetchBuffer } from '../api/client'
import { useFlow, useMotion } from '../state/data'
import { after, useClock } from '../state/clock'
import { useScene } from '../state/scene'
import { inTime, useUi } from '../state/ui'
import { useView } from '../state/view'

/** Lets the wind blow in the view while one is at Motion or Shots; elsewhere plants stand at rest. Draws nothing itself. */
export function MotionFeed() {
  const here = useUi((s) => inTime(s.station))
  const stage = useView((s) => s.stage)
  const { data } = useMotion()
  const clock = useScene((s) => s.scene?.document.motion?.clock)
  const length = clock?.length_s ?? 10
  const playing = useClock((s) => s.playing && here)

  useEffect(() => {
    stage?.setWind(here && data ? data : null)
  }, [stage, here, data])
  const bodies = here ? (data?.body_meshes ?? []) : []
  const { data: flow } = useFlow()
  const shown = useUi((s) => s.windShown && s.station === 'motion')
  useEffect(() => {
    stage?.setFlow(here && flow ? flow : null, shown)
  }, [stage, here, flow, shown])
  useEffect(() => {
    stage?.setTime(useClock.getState().time)
    return useClock.subscribe(({ time }, was) => {
      if (time !== was.time) stage?.setTime(time)
    })
  }, [stage])
  useEffect(() => {
    if (!here) useClock.setState({ playing: false })
  }, [here])

  useEffect(() => {
    if (!playing || !stage) return
    stage.play(true)
    let [last, since, pictures] = [performance.now(), performance.now(), 0]
    let frame = requestAnimationFrame(function next(now) {
      const { time, loop } = useClock.getState()
      useClock.setState(after(time, Math.max(0, now - last) / 1000, length, loop))
      last = Math.max(now, last)
      pictures += 1
      if (now - since > 1000) {
        useClock.setState({ rate: (pictures * 1000) / (now - since) })
        ;[since, pictures] = [now, 0]
      }
      frame = requestAnimationFrame(next)
    })
    return () => {
      cancelAnimationFrame(frame)
      stage.play(false)
      useClock.setState({ rate: null })
    }
  }, [playing, stage, length])
  return bodies.map((b) => <BodyFeed key={b.id} id={b.id} meshKey={b.mesh_key} />)
}

/** Brings one body into the view. */
function BodyFeed({ id, meshKey }: { id: number; meshKey: string }) {
  const stage = useView((s) => s.stage)
  const scene = useScene((s) => s.scene?.id)
  const { data } = useQuery({
    queryKey: ['body', scene, id, meshKey],
    placeholderData: keepPreviousData,
    queryFn: async ({ signal }) => decodeMesh(await fetchBuffer(`/api/scenes/${scene}/bodies/${id}/mesh/${meshKey}`, signal)),
  })
  useEffect(() => stage?.setBody(id, data ?? null), [stage, data, id])
  useEffect(() => () => useView.getState().stage?.setBody(id, null), [id, stage])
  return null
}
