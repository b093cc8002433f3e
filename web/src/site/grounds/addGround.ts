import { useScene } from '../../state/scene'
import { useUi } from '../../state/ui'
import { useView } from '../../state/view'
import { newGround, type PlacedSource } from './placed'

/** Sets a ground up where one is looking, on the land, and takes hold of it. */
export function addGround(source: PlacedSource, name: string) {
  const { scene, run } = useScene.getState()
  const stage = useView.getState().stage
  const [x, , z] = stage?.place().target_m ?? [0, 0, 0]
  const lift = source.kind === 'planet' ? source.radius_m * 1.1 : 0
  const value = newGround(source, name, [x, (stage?.heightAt(x, z) ?? 0) + lift, z], scene!.document.grounds ?? [])
  run({ do: 'put_ground', value })
  useUi.getState().set({ station: 'site', chosen: { what: 'ground', id: value.id } })
}
