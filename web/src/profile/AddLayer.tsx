import { Plus } from 'lucide-react'
import type { Command, Species } from '../api/client'
import { SpeciesPicker } from '../nursery/SpeciesPicker'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { Button } from '../ui/Button'
import { mixedLayer, newLayer } from './newLayer'

/** Adds a layer of one species or of several, chosen by their pictures. */
export function AddLayer({ look, label = 'Add layer' }: { look?: 'primary'; label?: string }) {
  return (
    <SpeciesPicker
      title="Add a layer"
      onPick={(species) => add([newLayer(theDocument(), species, takenHold())])}
      several={[
        { label: 'As one mix', hint: 'One layer in which all of them grow, in equal shares.', onPick: (all) => add([mixedLayer(theDocument(), all, takenHold())]) },
        { label: 'As layers', hint: 'A layer each, with what is usual for it.', onPick: (all) => add(layersOf(all)) },
      ]}
    >
      <Button look={look}>
        <Plus size={13} aria-hidden />
        {label}
      </Button>
    </SpeciesPicker>
  )
}

/** What is held on the site is where one is looking to plant. */
const takenHold = () => {
  const { station, chosen } = useUi.getState()
  return station === 'site' ? chosen : null
}

const theDocument = () => useScene.getState().scene!.document

/** A layer of each, each knowing those before it. */
function layersOf(species: Species[]) {
  const document = theDocument()
  const layers = [...document.layers]
  return species.map((s) => {
    const layer = newLayer({ ...document, layers }, s, takenHold())
    layers.push(layer)
    return layer
  })
}

function add(layers: ReturnType<typeof newLayer>[]) {
  const commands: Command[] = layers.map((layer) => ({ do: 'add_layer', layer, place: 0 }))
  useScene.getState().run(commands.length === 1 ? commands[0] : { do: 'all', commands })
  useUi.getState().set({ layer: layers[0].id, together: [], station: 'planting' })
}
