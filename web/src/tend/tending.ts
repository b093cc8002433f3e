import { api, wanted, type Layer } from '../api/client'
import type { PlantsBuffer } from '../api/buffers'
import { standings, type Standing } from '../state/grounds'
import { freshId, useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { useView } from '../state/view'
import type { Stage } from '../view/stage/stage'
import { useHand, type InHand, type Pose, type Tended } from './hand'
import { plantAt, plantsWithin, type Point, type Point3 } from './picking'

/** Plants in hand at once, at most. */
export const MOST_IN_HAND = 3000

const say = (message: string) => useScene.getState().say(message)
const grounds = () => standings(useScene.getState().scene!.document)

/** A point of the scene as a ground beside the land sees it. */
export function toLocal(ground: Standing | undefined, p: Point3): [number, number, number] {
  if (!ground) return [p.x, p.y, p.z]
  const [dx, dy, dz] = [p.x - ground.x_m, p.y - ground.y_m, p.z - ground.z_m]
  const [s, c] = [Math.sin((ground.turn_deg * Math.PI) / 180), Math.cos((ground.turn_deg * Math.PI) / 180)]
  // Clockwise seen from above, with z to the south.
  return [dx * c + dz * s, dy, dz * c - dx * s]
}

/** The way back. */
export function toScene(ground: Standing | undefined, [x, y, z]: number[]): Point3 {
  if (!ground) return { x, y, z }
  const [s, c] = [Math.sin((ground.turn_deg * Math.PI) / 180), Math.cos((ground.turn_deg * Math.PI) / 180)]
  return { x: ground.x_m + x * c - z * s, y: ground.y_m + y, z: ground.z_m + z * c + x * s }
}

/** Takes plants in hand by their places in the buffer: instead of those in hand, or along with them. */
export async function takeInHand(layer: Layer, plants: PlantsBuffer, places: number[], along: boolean) {
  const { scene } = useScene.getState()
  const key = scene?.layers.find((l) => l.id === layer.id)?.plants_key
  if (!scene || !key) return
  if (places.length > MOST_IN_HAND) {
    say(`${places.length.toLocaleString('en')} plants lie there; ${MOST_IN_HAND.toLocaleString('en')} can be in hand at once. Draw around fewer.`)
    return
  }
  const { items, set } = useHand.getState()
  if (places.length === 0) return along ? undefined : set({ items: [] })
  try {
    const found = await wanted(api.POST('/api/scenes/{scene}/layers/{layer}/picked', { params: { path: { scene: scene.id, layer: layer.id } }, body: { plants_key: key, places } }))
    const taken = found.map((p): InHand => {
      const i = p.place * 3
      const at = { x: plants.positions[i], y: plants.positions[i + 1], z: plants.positions[i + 2] }
      const tended = { ground: p.ground, at_m: p.at_m, ...(p.from ? { from: p.from } : {}), plant: p.plant }
      return { id: p.tended ?? null, tended, at, footprintM: p.footprint_m }
    })
    const same = (a: InHand, b: InHand) => (a.id !== null && a.id === b.id) || (a.id === null && b.id === null && a.tended.from?.name === b.tended.from?.name)
    set({ items: along ? [...items.filter((a) => !taken.some((b) => same(a, b))), ...taken] : taken })
  } catch (e) {
    // Plants that have just grown anew have another name; the next click finds them.
    say(e instanceof Error ? e.message : 'the plants could not be asked about')
  }
}

/** Whether the base of a plant is not behind the ground. */
function inSight(stage: Stage, project: (p: Point3) => Point | null, plants: PlantsBuffer, i: number, [ex, ey, ez]: number[]): boolean {
  const p = { x: plants.positions[i * 3], y: plants.positions[i * 3 + 1], z: plants.positions[i * 3 + 2] }
  const at = project(p)
  const ground = at && stage.pick(at.x, at.y)
  if (!ground) return true
  const away = (q: Point3) => Math.hypot(q.x - ex, q.y - ey, q.z - ez)
  return away(p) < away(ground) * 1.03 + 1
}

/** The plant under the pointer, or those within a line. */
export function placesAt(plants: PlantsBuffer, heightM: number, at: Point | Point[]): number[] {
  const { stage } = useView.getState()
  if (!stage) return []
  const [ex, ey, ez] = stage.place().eye_m
  const project = stage.projector()
  if (Array.isArray(at)) {
    const found = plantsWithin(plants, project, at)
    // Those behind a hill are not meant. Of very many none is asked about; they are too many anyway.
    // From straight above all are in sight.
    return found.length > MOST_IN_HAND || useUi.getState().mode === 'plan' ? found : found.filter((i) => inSight(stage, project, plants, i, [ex, ey, ez]))
  }
  const one = plantAt(plants, heightM, project, { x: ex, y: ey, z: ez }, at, stage.size())
  return one === null ? [] : [one]
}

/** Sets what is in hand as it now is: each that grew by itself gets a number of its own. */
export function setInHand(layer: Layer, items: InHand[], gesture?: string) {
  let next = freshId([...(layer.tended ?? []), ...items.flatMap((i) => (i.id === null ? [] : [{ id: i.id }]))])
  const numbered = items.map((i) => (i.id === null ? { ...i, id: next++ } : i))
  useHand.getState().set({ items: numbered })
  const put = numbered.map((i): Tended => ({ ...i.tended, id: i.id! }))
  useScene.getState().editLayer(layer.id, { set: 'tend', put, let_go: [] }, gesture)
}

/** Changes how all in hand stand. */
export function pose(layer: Layer, change: (p: Pose) => Partial<Pose>, gesture?: string) {
  const { items } = useHand.getState()
  setInHand(layer, items.map((i) => (i.tended.plant ? { ...i, tended: { ...i.tended, plant: { ...i.tended.plant, ...change(i.tended.plant) } } } : i)), gesture)
}

/** Moves all in hand along the ground, from where they were when the move began. */
export function moveBy(layer: Layer, from: InHand[], dx: number, dz: number, gesture: string) {
  const { stage } = useView.getState()
  const moved = from.map((i): InHand => {
    const on = grounds().find((g) => g.id === i.tended.ground)
    const [x, z] = [i.at.x + dx, i.at.z + dz]
    const at = { x, y: on ? i.at.y : (stage?.heightAt(x, z) ?? i.at.y), z }
    return { ...i, at, tended: { ...i.tended, at_m: toLocal(on, at) } }
  })
  const now = useHand.getState().items
  setInHand(layer, moved.map((m, k) => ({ ...m, id: now[k]?.id ?? m.id })), gesture)
}

/** Pulls out what is in hand. Its spots stay clear. */
export function pullOut(layer: Layer) {
  const { items, set } = useHand.getState()
  const out = items.map((i): InHand => {
    const { plant: _, ...rest } = i.tended
    return { ...i, tended: { ...rest, room_m: Number(Math.max(0.05, i.footprintM).toFixed(3)) } }
  })
  setInHand(layer, out)
  set({ items: [] })
}

/** Lets go of what was tended: it grows by itself again. */
export function letGo(layer: Layer, ids: number[]) {
  useScene.getState().editLayer(layer.id, { set: 'tend', put: [], let_go: ids })
  useHand.getState().set({ items: [] })
}

/** Sets a new plant of the mix where the pointer is. */
export function addAt(layer: Layer, p: Point3 & { ground: number }) {
  const on = grounds().find((g) => g.id === p.ground)
  const whole = layer.mix.reduce((sum, m) => sum + m.share, 0)
  let left = Math.random() * whole
  const part = layer.mix.find((m) => (left -= m.share) <= 0) ?? layer.mix[0]
  const { size, turn_deg } = layer.stance
  const between = (r: { min: number; max: number }) => Number((r.min + Math.random() * (r.max - r.min)).toFixed(3))
  const plant: Pose = {
    species: part.species, form: Math.floor(Math.random() * 64), size: between(size), turn_deg: between(turn_deg),
    lift_m: -layer.stance.sink_m, tint: Math.floor(Math.random() * 65536),
  }
  setInHand(layer, [{ id: null, tended: { ground: p.ground, at_m: toLocal(on, p), plant }, at: p, footprintM: 0 }])
}

/** Puts what is in hand into a layer of its own, planted by hand; it no longer grows in this one. */
export function detach(layer: Layer) {
  const { scene, run } = useScene.getState()
  const { items, set } = useHand.getState()
  const standing = items.filter((i) => i.tended.plant)
  if (!scene || standing.length === 0) return
  const { layers } = scene.document
  const id = freshId(layers)
  const own = standing.map((i, k): Tended => ({ ground: i.tended.ground, at_m: i.tended.at_m, plant: i.tended.plant, id: k + 1 }))
  let next = freshId([...(layer.tended ?? [])])
  const out = standing.map((i): Tended => ({ ...(i.tended.from ? { from: i.tended.from } : {}), ground: i.tended.ground, at_m: i.tended.at_m, room_m: 0, id: i.id ?? next++ }))
  const fresh: Layer = { ...layer, id, name: `${layer.name} by hand`.slice(0, 80), locked: false, amount: { unit: 'total', value: 0 }, masks: [], tended: own }
  run({
    do: 'all',
    commands: [
      { do: 'add_layer', layer: fresh, place: layers.indexOf(layer) },
      { do: 'edit_layer', id: layer.id, edit: { set: 'tend', put: out, let_go: [] } },
    ],
  })
  set({ items: [] })
  return id
}
