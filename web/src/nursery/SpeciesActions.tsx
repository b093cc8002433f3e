import { GitFork, Plus, RotateCcw, Trash2 } from 'lucide-react'
import { api, wanted, type Species } from '../api/client'
import { newLayer } from '../profile/newLayer'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { Button } from '../ui/Button'
import { Hint } from '../ui/Hint'
import { readCommunitiesAgain } from './communities/useCommunities'
import { freeId } from './search'

export interface SpeciesActionsProps {
  species: Species
  all: Species[]
  /** Whether a layer grows it. */
  used: boolean
}

/** What can be done with a species as a whole. */
export function SpeciesActions({ species, all, used }: SpeciesActionsProps) {
  const document = useScene((s) => s.scene!.document)
  const scene = useScene((s) => s.scene!.id)
  const { run, say } = useScene.getState()
  const { set } = useUi()
  const plant = () => {
    const layer = newLayer(document, species)
    run({ do: 'add_layer', layer, place: 0 })
    set({ layer: layer.id, together: [], station: 'planting' })
  }
  const fork = () => {
    const id = freeId(all, species.id)
    const number = id.slice(id.lastIndexOf('-') + 1)
    const value = { ...species.spec, id, name: `${species.name} ${number}`, plural: `${species.plural} ${number}`, forked_from: species.id }
    run({ do: 'put_species', value })
    set({ species: id })
  }
  const keep = () =>
    void wanted(api.POST('/api/scenes/{scene}/communities', { params: { path: { scene: scene } }, body: { name: species.name, species: [species.id] } }))
      .then(readCommunitiesAgain)
      .then(() => set({ shelf: 'communities' }))
      .catch((e: Error) => say(e.message))
  const back = () => run({ do: 'remove_species', id: species.id })
  return (
    <div className="mt-2 flex flex-wrap gap-1.5">
      <Button look="primary" data-testid="plant-species" onClick={plant}>
        <Plus size={13} aria-hidden />
        Add layer
      </Button>
      <Hint text="A species of its own that begins like this one. Plants of this one stay as they are.">
        <Button onClick={fork} data-testid="fork">
          <GitFork size={13} aria-hidden />
          Fork
        </Button>
      </Hint>
      {species.own && (
        <Hint text="Keeps it on the shelf of communities, for other scenes.">
          <Button onClick={keep}>Keep</Button>
        </Hint>
      )}
      {species.own && species.ready && (
        <Hint text="Drops this scene's own version. Undo brings it back.">
          <Button onClick={back}>
            <RotateCcw size={13} aria-hidden />
            As it was
          </Button>
        </Hint>
      )}
      {species.own && !species.ready && (
        <Hint text={used ? 'A layer grows it; give that layer another species first.' : 'Takes it out of this scene. Undo brings it back.'}>
          <Button onClick={back} disabled={used}>
            <Trash2 size={13} aria-hidden />
            Take out
          </Button>
        </Hint>
      )}
    </div>
  )
}
