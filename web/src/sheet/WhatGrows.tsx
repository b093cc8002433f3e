import type { Layer } from '../api/client'
import { useSpecies } from '../state/data'
import { Part } from '../ui/Part'
import { showNumber } from '../ui/parse'
import { SpeciesChoice } from './SpeciesChoice'

/** What grows. */
export function WhatGrows({ layer }: { layer: Layer }) {
  const { data } = useSpecies()
  const species = data?.find((s) => s.id === layer.species)
  return (
    <Part
      title="What grows"
      settings={['species']}
      summary={species && `${showNumber(species.height_m, 2)} m, ${species.forms} forms, ${species.triangles[0]} triangles`}
    >
      <SpeciesChoice layer={layer} />
    </Part>
  )
}
