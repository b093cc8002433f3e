import { useEffect, useState } from 'react'
import type { Layer } from '../api/client'
import { usePlants, useSpecies } from '../state/data'
import { useScene } from '../state/scene'
import { useView } from '../state/view'
import { DETAILS, loadSpecies, type SpeciesMeshes } from './stage/species'

/** By detail, see `DETAILS`, CARD and DOT. */
const SHOWN_AS = [...DETAILS, 'card', 'dot']

/** Brings one layer's plants into the view; draws nothing itself. */
export function LayerFeed({ layer }: { layer: Layer }) {
  const stage = useView((s) => s.stage)
  const { data: all } = useSpecies()
  const [look, setLook] = useState<SpeciesMeshes | null>(null)
  const { data: plants, error } = usePlants(layer)
  const say = useScene((s) => s.say)
  const scene = useScene((s) => s.scene?.id)
  const species = all?.find((s) => s.id === layer.species)

  const forced = layer.show_as && layer.show_as !== 'auto' ? SHOWN_AS.indexOf(layer.show_as) : null

  useEffect(() => {
    let current = true
    // A look that was overtaken by a later one is not there any more.
    if (species && scene) void loadSpecies(scene, species).then((l) => current && setLook(l), () => undefined)
    return () => {
      current = false
    }
  }, [species, scene])

  useEffect(() => {
    if (stage && look && plants && look.species.id === layer.species) {
      stage.setLayer(layer.id, look, plants, layer.visible, forced)
    }
  }, [stage, look, plants, layer.id, layer.species, layer.visible, forced])

  useEffect(() => () => useView.getState().stage?.removeLayer(layer.id), [layer.id, stage])

  // A layer that has moved on is fetched under its new name anyway. One that cannot grow shows nothing: its last plants
  // belong to other settings. Why is said in the profile and the notes.
  const code = error && (error as { code?: string }).code
  const failed = code && code !== 'outdated' && code !== 'too_many' ? `${layer.name}: ${error.message}` : null
  useEffect(() => {
    if (failed) say(failed)
    if (code && code !== 'outdated') stage?.removeLayer(layer.id)
  }, [failed, code, say, stage, layer.id])
  return null
}
