import { api, wanted, type Layer } from '../api/client'
import { queries } from '../state/data'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'

/** Takes a still of a shot as the scene is saved now: at rest, or at a moment, seconds. */
export async function takeStill(shot: number, time_s?: number): Promise<string> {
  const id = useScene.getState().scene!.id
  const still = await wanted(api.POST('/api/scenes/{scene}/stills', { params: { path: { scene: id } }, body: { shot, time_s } }))
  await queries.invalidateQueries({ queryKey: ['stills', id] })
  return still.still
}

/** Nothing is on its way any more. */
const saved = () =>
  new Promise<void>((resolve) => {
    if (useScene.getState().saving.waiting === 0) return resolve()
    const stop = useScene.subscribe((s) => {
      if (s.saving.waiting > 0) return
      stop()
      resolve()
    })
  })

/** Takes a still of a layer as it is and one as it was set aside, from the same shot, and lays them beside one another. The layer stays as it is. */
export async function takePair(aside: Layer): Promise<void> {
  const { run, undo, scene, say } = useScene.getState()
  const { shot: chosen, set } = useUi.getState()
  const shots = scene!.document.shots
  const shot = shots.find((s) => s.id === chosen) ?? shots[0]
  if (!shot) return say('Keep a shot first: Shots, From this view.')
  await saved()
  const b = await takeStill(shot.id)
  run({ do: 'replace_layer', layer: aside })
  await saved()
  const before = useScene.getState().refusal
  try {
    if (before) return
    const a = await takeStill(shot.id)
    set({ station: 'shots', shot: shot.id, compared: { a, b } })
  } finally {
    // What was refused is not there to be taken back.
    if (!before) undo()
  }
}
