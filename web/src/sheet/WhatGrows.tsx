import type { Layer } from '../api/client'
import { useSpecies } from '../state/data'
import { leadOf, meanTriangles } from '../state/mix'
import { Part } from '../ui/Part'
import { showCount, showNumber } from '../ui/parse'
import { MixFields } from './mix/MixFields'
import { ShownAs } from './ShownAs'
import { TintFields } from './TintFields'

/** What grows, with its portraits and the way to them in the nursery, and the colour laid over it. */
export function WhatGrows({ layer }: { layer: Layer }) {
  const { data } = useSpecies()
  const species = data?.find((s) => s.id === leadOf(layer))
  const kinds = layer.mix.length > 1 ? `${layer.mix.length} species` : species && `${species.forms} forms`
  return (
    <Part
      title="What grows"
      settings={['species', 'tint']}
      summary={species && `${showNumber(species.height_m, 2)} m, ${kinds}, ${showCount(meanTriangles(layer, data))} triangles`}
    >
      <div className="flex flex-col gap-2.5">
        <div data-setting="species">
          <MixFields layer={layer} />
        </div>
        <ShownAs layer={layer} />
        <TintFields layer={layer} />
      </div>
    </Part>
  )
}
