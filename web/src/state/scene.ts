import { create } from 'zustand'
import { api, wanted, type Layer, type LayerEdit, type SceneView, type Schemas, type Shot, type ShotEdit, type Command } from '../api/client'
import { author } from './author'
import { Commander, type Saving, type Undecided } from './commander'
import { applyPatch, type PatchOp } from './patch'
import { alongside } from './together'
import { useUi } from './ui'
import { holdPage } from './unsent'

type Changes = Schemas['Changes']

interface SceneState {
  scene: SceneView | null
  saving: Saving
  /** What was refused last, in the server's words. */
  refusal: string | null
  /** Something that failed without being a change: a buffer that could not be fetched, say. */
  failure: string | null
  /** Changes of which another was faster, to be decided. */
  undecided: Undecided[]
  open(id?: string): Promise<void>
  run(command: Command, gesture?: string, key?: string): void
  editLayer(id: number, edit: LayerEdit, gesture?: string): void
  editShot(id: number, edit: ShotEdit, gesture?: string): void
  undo(): void
  redo(): void
  decide(id: string, mine: boolean): void
  hurry(): void
  dismiss(): void
  say(message: string): void
  refresh(): Promise<void>
}

/** The scene as the server last described it. The document is only ever changed by the server. */
export const useScene = create<SceneState>((set, get) => {
  const commander = new Commander({
    scene: () => get().scene,
    accept: (answer) => accept(answer),
    saving: (saving) => set({ saving }),
    refused: (refusal) => set({ refusal }),
    undecided: (undecided) => set({ undecided }),
  })
  const query = () => ({ author: author() })
  const fetchScene = (id: string) => wanted(api.GET('/api/scenes/{scene}', { params: { path: { scene: id }, query: query() } }))

  /** Takes what an answer tells; asks for the changes where it does not lead on from what is known. */
  function accept(told: Changes) {
    const known = get().scene
    if (!known) return
    const { seq, undo_steps, redo_steps } = told
    if (told.scene) {
      if (told.scene.id === known.id && seq >= known.seq) set({ scene: told.scene })
    } else if (seq === known.seq) set({ scene: { ...known, undo_steps, redo_steps } })
    else if (told.base_seq === known.seq && told.patch) set({ scene: { ...applyPatch(known, told.patch), seq, undo_steps, redo_steps } })
    else if (seq > known.seq) void get().refresh()
  }

  /** Takes what another did. */
  function hear(told: Heard) {
    const known = get().scene
    if (!known || (told.seq !== undefined && told.seq <= known.seq)) return
    const { seq, base_seq, patch } = told
    if (seq === undefined || base_seq !== known.seq || !patch || told.authors?.includes(author())) void get().refresh()
    else set({ scene: { ...applyPatch(known, patch), seq } })
  }

  return {
    scene: null,
    saving: { state: 'saved', waiting: 0, since: 0 },
    refusal: null,
    failure: null,
    undecided: [],
    async open(id) {
      const known = id ?? (await wanted(api.GET('/api/scenes'))).at(0)?.id
      const scene = known
        ? await fetchScene(known)
        : await wanted(api.POST('/api/scenes', { body: { from: 'kittiwake_head' } }))
      set({ scene })
      listen(scene.id, hear, () => void get().refresh())
      await holdPage()
      await commander.takeOver()
    },
    async refresh() {
      const { scene } = get()
      if (!scene) return
      const params = { path: { scene: scene.id }, query: { since: scene.seq, ...query() } }
      const told = await wanted(api.GET('/api/scenes/{scene}/changes', { params })).catch(() => null)
      if (told && get().scene?.id === scene.id) accept(told)
    },
    run: (command, gesture, key) => commander.run(command, gesture, key),
    editLayer: (id, edit, gesture) => {
      const key = gesture && `${id} ${edit.set}`
      const commands = layerCommands(id, edit)
      commander.run(commands.length === 1 ? commands[0] : { do: 'all', commands }, gesture, key)
    },
    editShot: (id, edit, gesture) =>
      commander.run({ do: 'edit_shot', id, edit }, gesture, gesture && `shot ${id} ${edit.set}`),
    undo: commander.undo,
    redo: commander.redo,
    decide: (id, mine) => commander.decide(id, mine),
    hurry: commander.hurry,
    dismiss: () => set({ refusal: null, failure: null }),
    say: (failure) => set({ failure }),
  }
})

export interface JobHeard {
  job: string
  state: string
  progress: number
}
type Heard = { event: string; seq?: number; base_seq?: number; authors?: string[]; patch?: PatchOp[] | null } & Partial<JobHeard>
type JobListener = (job: JobHeard | null) => void
const jobListeners = new Set<JobListener>()

/** Calls back whenever a job moves on; with nothing when that may have been missed. */
export function onJob(listener: JobListener): () => void {
  jobListeners.add(listener)
  return () => jobListeners.delete(listener)
}

let source: EventSource | null = null

function listen(scene: string, hear: (told: Heard) => void, missed: () => void) {
  source?.close()
  source = new EventSource(`/api/scenes/${scene}/events`)
  source.onopen = () => {
    missed()
    for (const l of jobListeners) l(null)
  }
  source.onmessage = (message) => {
    const heard = JSON.parse(message.data) as Heard
    if (heard.event === 'edited') hear(heard)
    else if (heard.job) for (const l of jobListeners) l(heard as JobHeard)
    else missed()
  }
}

export function useLayer(id: number | null): Layer | undefined {
  return useScene((s) => s.scene?.document.layers.find((l) => l.id === id))
}

export function useShot(id: number | null): Shot | undefined {
  return useScene((s) => s.scene?.document.shots.find((shot) => shot.id === id) ?? s.scene?.document.shots[0])
}

/** Numbers that are given out; above them room is left for those that follow one. */
const MOST_ID = 0xff0000
/** How far apart numbers that follow one another are at most. */
const STEP = 1000

/**
 * A number that nothing in the list has, above all others: lists by number are then in the order in which things were made. How far above
 * is drawn at random, so that two who add something at once do not choose the same.
 */
export function freshId(items: { id: number }[]): number {
  const [drawn] = crypto.getRandomValues(new Uint32Array(1))
  const above = items.reduce((most, item) => Math.max(most, item.id), 0) + 1 + (drawn % STEP)
  if (above <= MOST_ID) return above
  // Used up in years, or by a file with large numbers: any that is free will do.
  const id = 1 + (drawn % MOST_ID)
  return items.some((item) => item.id >= id && item.id < id + STEP) ? freshId(items) : id
}

/** An edit of a layer, and of those that change along with it. */
export function layerCommands(id: number, edit: LayerEdit): Command[] {
  const own: Command = { do: 'edit_layer', id, edit }
  const layers = useScene.getState().scene?.document.layers ?? []
  const { layer: chosen, together } = useUi.getState()
  const layer = layers.find((l) => l.id === id)
  if (chosen !== id || !layer) return [own]
  const others = layers.filter((l) => together.includes(l.id) && l.id !== id && !l.locked)
  return [own, ...others.flatMap((other, nth): Command[] => {
    const edited = alongside(edit, layer, other, nth)
    return edited ? [{ do: 'edit_layer', id: other.id, edit: edited }] : []
  })]
}
