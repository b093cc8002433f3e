import type { Layer } from '../api/client'
import { Portrait } from '../nursery/Portrait'
import { useSpecies } from '../state/data'
import { useUi } from '../state/ui'
import { Button } from '../ui/Button'
import { Part } from '../ui/Part'
import { showCount, showNumber } from '../ui/parse'
import { ShownAs } from './ShownAs'
import { SpeciesChoice } from './SpeciesChoice'

/** What grows, with its portrait and the way to it in the nursery. */
export function WhatGrows({ layer }: { layer: Layer }) {
  const { data } = useSpecies()
  const { set } = useUi()
  const species = data?.find((s) => s.id === layer.species)
  return (
    <Part
      title="What grows"
      settings={['species']}
      summary={species && `${showNumber(species.height_m, 2)} m, ${species.forms} forms, ${showCount(species.triangles[0])} triangles`}
    >
      <div className="flex items-center gap-2">
        {species && <Portrait species={species} urgent className="size-14 rounded-md" />}
        <div className="flex min-w-0 flex-1 flex-col items-start gap-1">
          <div className="flex w-full">
            <SpeciesChoice layer={layer} />
          </div>
          <ShownAs layer={layer} />
          <Button look="quiet" className="-ml-2" disabled={!species} onClick={() => set({ species: layer.species, shelf: 'species', station: 'nursery' })}>
            Look at it in the nursery
          </Button>
        </div>
      </div>
    </Part>
  )
}
