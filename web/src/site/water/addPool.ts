import type { Command, WaterPlane } from '../../api/client'
import { freshId, useScene } from '../../state/scene'
import { useUi } from '../../state/ui'
import { useView } from '../../state/view'
import { dug, fitted, type HeightAt } from './basin'

/** Half the width of a pool that is dug, metres. */
const RADIUS = 6

/** Sets a pool in where one is looking: fitted to the hollow there, or in a basin dug for it. Takes hold of it. */
export function addPool() {
  const { scene, run } = useScene.getState()
  const sheets = scene!.document.waters ?? []
  const stage = useView.getState().stage
  const [x, , z] = stage?.place().target_m ?? [0, 0, 0]
  const taken = new Set(sheets.map((w) => w.name))
  let name = 'Pool'
  for (let i = 2; taken.has(name); i++) name = `Pool ${i}`
  const id = freshId(sheets)
  const heightAt: HeightAt = (east, south) => stage?.heightAt(east, south) ?? null
  const commands = poolCommands({ id, name, turn_deg: 0, round: true }, scene!.document.ground.strokes ?? [], heightAt, x, z)
  run(commands.length === 1 ? commands[0] : { do: 'all', commands })
  useUi.getState().set({ station: 'site', chosen: { what: 'water', id } })
}

const round = (v: number) => Number(v.toFixed(2))

/** What sets a pool in at a point. */
export function poolCommands(
  own: Pick<WaterPlane, 'id' | 'name' | 'turn_deg' | 'round'>, strokes: { id: number }[], heightAt: HeightAt, x: number, z: number,
): Command[] {
  const put = (value: Omit<WaterPlane, 'id' | 'name' | 'turn_deg' | 'round'>, oval = true): Command => ({ do: 'put_water', value: { ...own, ...value, round: oval } })
  const found = fitted(heightAt, x, z)
  // A hollow is of any shape; its bank hides the corners.
  if (found) return [put({ height_m: round(found.height_m), x_m: round(found.x_m), z_m: round(found.z_m), width_m: round(found.width_m), depth_m: round(found.depth_m) }, false)]
  const basin = dug(heightAt, x, z, RADIUS)
  const pool = { x_m: round(x), z_m: round(z), width_m: RADIUS * 2, depth_m: RADIUS * 2 }
  if (!basin) return [put({ ...pool, height_m: round((heightAt(x, z) ?? 0) + 0.3) })]
  const stroke = { id: freshId(strokes), tool: 'lower' as const, radius_m: RADIUS, strength: round(Math.min(basin.lower_m, 200)), falloff: 0.6, points: [[pool.x_m, pool.z_m]] }
  return [{ do: 'edit_ground', edit: { set: 'put_stroke', value: stroke } }, put({ ...pool, height_m: round(basin.height_m) })]
}
