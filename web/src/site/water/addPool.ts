import { freshId, useScene } from '../../state/scene'
import { useUi } from '../../state/ui'
import { useView } from '../../state/view'

/** Sets a pool in where one is looking, a little over the land, and takes hold of it. */
export function addPool() {
  const { scene, run } = useScene.getState()
  const sheets = scene!.document.waters ?? []
  const stage = useView.getState().stage
  const [x, , z] = stage?.place().target_m ?? [0, 0, 0]
  const taken = new Set(sheets.map((w) => w.name))
  let name = 'Pool'
  for (let i = 2; taken.has(name); i++) name = `Pool ${i}`
  const round = (v: number) => Number(v.toFixed(2))
  const id = freshId(sheets)
  const height_m = round((stage?.heightAt(x, z) ?? 0) + 0.3)
  run({ do: 'put_water', value: { id, name, height_m, x_m: round(x), z_m: round(z), width_m: 12, depth_m: 12, turn_deg: 0, round: true } })
  useUi.getState().set({ station: 'site', chosen: { what: 'water', id } })
}
