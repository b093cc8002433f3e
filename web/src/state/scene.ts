import { create } from 'zustand'
import { api, wanted, type Layer, type LayerEdit, type SceneView, type Shot, type ShotEdit, type Command } from '../api/client'
import { Commander, type Saving } from './commander'
import { useUi } from './ui'

interface SceneState {
  scene: SceneView | null
  saving: Saving
  /** What was refused last, in the server's words. */
  refusal: string | null
  /** Something that failed without being a change: a buffer that could not be fetched, say. */
  failure: string | null
  open(id?: string): Promise<void>
  run(command: Command, gesture?: string, key?: string): void
  editLayer(id: number, edit: LayerEdit, gesture?: string): void
  editShot(id: number, edit: ShotEdit, gesture?: string): void
  undo(): void
  redo(): void
  dismiss(): void
  say(message: string): void
  refresh(): Promise<void>
}

/** The scene as the server last described it. The document is only ever changed by the server. */
export const useScene = create<SceneState>((set, get) => {
  const commander = new Commander({
    scene: () => get().scene,
    accept: (scene) => {
      const known = get().scene
      // An answer that was overtaken by a later one is old news.
      if (!known || known.id !== scene.id || scene.seq >= known.seq) set({ scene })
    },
    saving: (saving) => set({ saving }),
    refused: (refusal) => set({ refusal }),
  })
  const fetchScene = (id: string) => wanted(api.GET('/api/scenes/{scene}', { params: { path: { scene: id } } }))

  return {
    scene: null,
    saving: 'saved',
    refusal: null,
    failure: null,
    async open(id) {
      const known = id ?? (await wanted(api.GET('/api/scenes'))).at(0)?.id
      const scene = known
        ? await fetchScene(known)
        : await wanted(api.POST('/api/scenes', { body: { from: 'kittiwake_head' } }))
      set({ scene })
      listen(scene.id, () => void get().refresh())
    },
    async refresh() {
      const { scene } = get()
      if (!scene || !commander.idle) return
      const fresh = await fetchScene(scene.id)
      if (fresh.seq > (get().scene?.seq ?? -1)) set({ scene: fresh })
    },
    run: (command, gesture, key) => commander.run(command, gesture, key),
    editLayer: (id, edit, gesture) => {
      const key = gesture && `${id} ${edit.set}`
      const others = together(id, edit, get().scene?.document.layers ?? [])
      if (others.length === 0) return commander.run({ do: 'edit_layer', id, edit }, gesture, key)
      commander.run({ do: 'all', commands: [id, ...others].map((each) => ({ do: 'edit_layer', id: each, edit })) }, gesture, key)
    },
    editShot: (id, edit, gesture) =>
      commander.run({ do: 'edit_shot', id, edit }, gesture, gesture && `shot ${id} ${edit.set}`),
    undo: commander.undo,
    redo: commander.redo,
    dismiss: () => set({ refusal: null, failure: null }),
    say: (failure) => set({ failure }),
  }
})

type Heard = { event: string; seq?: number }
const jobListeners = new Set<() => void>()

/** Calls back whenever a job moves on. */
export function onJob(listener: () => void): () => void {
  jobListeners.add(listener)
  return () => jobListeners.delete(listener)
}

let source: EventSource | null = null

function listen(scene: string, changed: () => void) {
  source?.close()
  source = new EventSource(`/api/scenes/${scene}/events`)
  source.onopen = () => {
    changed()
    for (const l of jobListeners) l()
  }
  source.onmessage = (message) => {
    const heard = JSON.parse(message.data) as Heard
    if (heard.event === 'job') for (const l of jobListeners) l()
    else if (heard.seq === undefined || heard.seq > (useScene.getState().scene?.seq ?? -1)) changed()
  }
}

export function useLayer(id: number | null): Layer | undefined {
  return useScene((s) => s.scene?.document.layers.find((l) => l.id === id))
}

export function useShot(id: number | null): Shot | undefined {
  return useScene((s) => s.scene?.document.shots.find((shot) => shot.id === id) ?? s.scene?.document.shots[0])
}

/** A number no layer, mask or shot of the list has had. */
export function freshId(items: { id: number }[]): number {
  return items.reduce((most, item) => Math.max(most, item.id), 0) + 1
}

/** What is each layer's own, however many are edited at once: its name, and single masks, which others do not have. */
const OWN: LayerEdit['set'][] = ['name', 'mask', 'tend', 'visible', 'locked', 'seed']

/** The layers that change along with this one. */
function together(id: number, edit: LayerEdit, layers: Layer[]): number[] {
  const { layer, together: others } = useUi.getState()
  if (layer !== id || OWN.includes(edit.set)) return []
  return others.filter((other) => other !== id && layers.some((l) => l.id === other && !l.locked))
}
