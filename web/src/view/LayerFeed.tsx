import { useEffect, useMemo, useState } from 'react'
import { bySpecies, type FitsBuffer, type PlantsBuffer } from '../api/buffers'
import type { Layer, Species } from '../api/client'
import { useFits, usePlants, useSpecies } from '../state/data'
import { keyOf } from '../profile/keyColour'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { useView } from '../state/view'
import { DETAILS, loadSpecies, type SpeciesMeshes } from './stage/species'

/** By detail, see `DETAILS`, CARD and DOT. */
const SHOWN_AS = [...DETAILS, 'card', 'dot']

/** Brings one layer's plants into the view, species by species; draws nothing itself. */
export function LayerFeed({ layer }: { layer: Layer }) {
  const { data: all } = useSpecies()
  const { data: plants, error } = usePlants(layer)
  const { data: fits = null } = useFits(layer)
  const say = useScene((s) => s.say)
  const mix = layer.mix.length
  const shares = useMemo(() => (plants ? bySpecies(plants, mix) : null), [plants, mix])

  // A layer that has moved on is fetched under its new name anyway. One that cannot grow shows nothing: its last plants
  // belong to other settings. Why is said in the profile and the notes.
  const code = error && (error as { code?: string }).code
  const failed = code && code !== 'outdated' && code !== 'too_many' ? `${layer.name}: ${error.message}` : null
  useEffect(() => {
    if (failed) say(failed)
  }, [failed, say])
  const broken = Boolean(code && code !== 'outdated')
  return layer.mix.map((part, k) => (
    <SpeciesFeed key={part.species} layer={layer} place={k} fits={fits} species={all?.find((s) => s.id === part.species)} plants={broken ? null : (shares?.[k] ?? null)} />
  ))
}

interface SpeciesFeedProps {
  layer: Layer
  /** Place in the mix. */
  place: number
  /** Plants of the layer with forms of their own. */
  fits: FitsBuffer | null
  species: Species | undefined
  /** Null while there are none to show. */
  plants: PlantsBuffer | null
}

function SpeciesFeed({ layer, place, fits, species, plants }: SpeciesFeedProps) {
  const stage = useView((s) => s.stage)
  const [look, setLook] = useState<SpeciesMeshes | null>(null)
  const scene = useScene((s) => s.scene?.id)
  const alone = useUi((s) => s.alone)
  const allAs = useUi((s) => s.allAs)
  const way = allAs === 'auto' ? (layer.show_as ?? 'auto') : allAs
  const visible = (alone === null ? layer.visible : alone === layer.id) && way !== 'stills'
  const forced = way === 'auto' || way === 'stills' ? null : SHOWN_AS.indexOf(way)
  const key = useUi((s) => s.keyed) ? keyOf(layer.id).colour : null
  const name = `${layer.id} ${species?.id}`

  useEffect(() => {
    let current = true
    // A look that was overtaken by a later one is not there any more.
    if (species && scene) void loadSpecies(scene, species).then((l) => current && setLook(l), () => undefined)
    return () => {
      current = false
    }
  }, [species, scene])

  useEffect(() => {
    if (!stage || !look || look.species.id !== species?.id) return
    if (plants) stage.setLayer(name, { look, plants, visible, forced, key })
    else stage.removeLayer(name)
  }, [stage, look, plants, name, species, visible, forced, key])

  useEffect(() => {
    if (plants) stage?.fitLayer(name, fits, place)
  }, [stage, look, plants, name, fits, place])

  useEffect(() => () => useView.getState().stage?.removeLayer(name), [name, stage])
  return null
}
