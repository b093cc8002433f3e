import type { Species, SpeciesSpec } from '../api/client'
import { useScene } from '../state/scene'

export type EditSpecies = (change: Partial<SpeciesSpec>, gesture?: string) => void

/** Changes the scene's own version of a species; it has one from then on. */
export function useEditSpecies(species: Species | undefined): EditSpecies {
  const run = useScene((s) => s.run)
  return (change, gesture) => {
    if (!species) return
    // What was sent last may not have come back yet.
    const own = useScene.getState().scene?.document.species?.find((s) => s.id === species.id)
    const value = { ...(own ?? species.spec), ...change }
    run({ do: 'put_species', value }, gesture, gesture && `species ${species.id} ${Object.keys(change).join()}`)
  }
}
