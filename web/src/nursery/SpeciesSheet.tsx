import { useEffect } from 'react'
import { useNursery } from '../state/data'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { Part } from '../ui/Part'
import { TextField } from '../ui/TextField'
import { BendingPart } from './BendingPart'
import { ColourPart } from './ColourPart'
import { FormsPart } from './FormsPart'
import { SpeciesActions } from './SpeciesActions'
import { Tags } from './Tags'
import { ImportedPart } from './imports/ImportedPart'
import { PlanPart } from './PlanPart'
import { Turntable } from './Turntable'
import { YearPart } from './YearPart'
import { useEditSpecies } from './useEditSpecies'
import { sayLength } from './kinds'
import { growsIt, leadOf } from '../state/mix'

const GRACE_MS = 3000

/** All about the chosen species. What is changed here changes all its plants at once. */
export function SpeciesSheet() {
  const { data, isFetching } = useNursery()
  const waits = useScene((s) => s.saving.waiting > 0) || isFetching
  const layers = useScene((s) => s.scene!.document.layers)
  const { species: chosen, layer, set } = useUi()
  const chosenLayer = layers.find((l) => l.id === layer)
  const current = chosenLayer && leadOf(chosenLayer)
  const species = data?.species.find((s) => s.id === chosen)
  const edit = useEditSpecies(species)

  // Something is always looked at: first what the chosen layer grows.
  useEffect(() => {
    // One that was just forked is there once it is saved and the nursery is read again, and a moment later.
    if (!data || species || (chosen && waits)) return
    const timer = window.setTimeout(() => set({ species: current ?? data.species[0]?.id ?? null }), chosen ? GRACE_MS : 0)
    return () => window.clearTimeout(timer)
  }, [data, species, chosen, current, waits, set])

  if (!data || !species) return <p className="p-4 text-soft">Fetching the nursery…</p>
  const users = layers.filter((l) => growsIt(l, species.id))
  return (
    <>
      <header className="border-b border-rule px-4 py-3">
        <TextField label="Name of the species" value={species.name} className="-ml-1 w-full text-sm font-semibold" onCommit={(name) => edit({ name })} />
        <p className="mt-0.5 text-soft">
          {species.kind}, {sayLength(species.height_m)} high, {sayLength(species.radius_m * 2)} wide
        </p>
        <Tags tags={species.tags ?? []} onChange={(tags) => edit({ tags })} />
        {species.problem && (
          <p role="alert" className="mt-1 rounded bg-iron-wash px-2 py-1.5">
            <span className="font-medium">A plain body stands in for it.</span> {species.problem}
          </p>
        )}
        <Turntable species={species} />
        <SpeciesActions species={species} all={data.species} used={users.length > 0} />
        <p className="mt-2 text-xs text-soft" data-testid="species-users">
          {users.length === 0
            ? 'No layer grows it yet.'
            : users.map((l, i) => (
                <span key={l.id}>
                  {i === 0 ? 'Grown by ' : ', '}
                  <button type="button" className="text-ink underline decoration-rule underline-offset-2" onClick={() => set({ layer: l.id, station: 'planting' })}>
                    {l.name}
                  </button>
                </span>
              ))}
        </p>
      </header>
      <PlanPart species={species} settings={data.settings[species.plan.make] ?? []} edit={edit} />
      {species.plan.make === 'imported' ? (
        <ImportedPart species={species} plan={species.plan} edit={edit} />
      ) : (
        <>
          <YearPart species={species} edit={edit} />
          <ColourPart species={species} edit={edit} />
        </>
      )}
      <BendingPart species={species} />
      <FormsPart species={species} edit={edit} />
      <Part title="Original" summary={species.own ? (species.ready ? 'edited in this scene' : 'of this scene') : 'ready species'}>
        <p className="text-soft">
          {species.own && species.ready && 'This scene has its own version; the ready one stays as it was.'}
          {species.own && !species.ready && `Only this scene has it${species.forked_from ? `; it was forked from ${species.forked_from}` : ''}.`}
          {!species.own && 'Change anything and this scene keeps its own version. Fork it to have both.'}
        </p>
      </Part>
    </>
  )
}
