import type { Layer } from '../api/client'
import { useSpecies } from '../state/data'
import { useScene } from '../state/scene'
import { Choice } from '../ui/Choice'

export function SpeciesChoice({ layer }: { layer: Layer }) {
  const { data } = useSpecies()
  const { editLayer } = useScene.getState()
  return (
    <Choice
      label="Species"
      value={layer.species}
      disabled={layer.locked}
      options={(data ?? []).map((s) => ({ value: s.id, name: s.name }))}
      onChange={(value) => editLayer(layer.id, { set: 'species', value })}
    />
  )
}
