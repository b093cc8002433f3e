import { useMemo, useState } from 'react'
import { useNursery } from '../state/data'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { Choice } from '../ui/Choice'
import type { ReadMesh } from '../api/meshFile'
import { Communities } from './communities/Communities'
import { Beside } from './Beside'
import { SeasonSlider } from './SeasonSlider'
import { SpeciesCard } from './SpeciesCard'
import { KINDS } from './kinds'
import { FromFile } from './imports/FromFile'
import { SpeciesImport } from './imports/SpeciesImport'
import { found, type Wanted } from './search'
import { growsIt } from '../state/mix'

/** Browsing all species that may grow in the scene. */
export function Nursery() {
  const { data } = useNursery()
  const document = useScene((s) => s.scene!.document)
  const { run } = useScene.getState()
  const { species: chosen, beside, shelf, set } = useUi()
  const [wanted, setWanted] = useState<Wanted>({ words: '', kind: null, here: false, order: 'kind', flowering: null })
  const [read, setRead] = useState<ReadMesh | null>(null)
  const change = (part: Partial<Wanted>) => setWanted((w) => ({ ...w, ...part }))
  const grown = useMemo(() => new Set(document.layers.flatMap((l) => l.mix.map((m) => m.species))), [document.layers])
  const season = document.season ?? 1
  const list = useMemo(() => found(data?.species ?? [], { ...wanted, flowering: wanted.flowering === null ? null : season }, grown), [data, wanted, grown, season])

  return (
    <section aria-label="Nursery" data-testid="nursery" className="absolute inset-0 z-10 flex flex-col bg-paper">
      {!read && <header className="flex flex-wrap items-end gap-x-3 gap-y-2 border-b border-rule px-4 py-2.5">
        <Choice
          label="Shelf"
          value={shelf}
          options={[{ value: 'species', name: 'Species' }, { value: 'communities', name: 'Communities' }]}
          onChange={(value) => set({ shelf: value })}
        />
        {shelf === 'species' && <>
        <label className="flex flex-col gap-0.5 text-xs text-soft">
          Search
          <input
            type="search"
            data-testid="nursery-search"
            placeholder="name, tag"
            value={wanted.words}
            onChange={(e) => change({ words: e.currentTarget.value })}
            onKeyDown={(e) => e.stopPropagation()}
            className="h-7 w-20 rounded-md border border-rule bg-panel px-2 text-[13px] text-ink outline-none focus:border-soft"
          />
        </label>
        <Choice
          label="Order"
          value={wanted.order}
          options={[{ value: 'kind', name: 'Kind', hint: 'In order of kind' }, { value: 'height', name: 'Height', hint: 'In order of height' }]}
          onChange={(order) => change({ order })}
        />
        <Choice
          label="Which"
          value={wanted.flowering !== null ? 'flower' : wanted.here ? 'here' : 'all'}
          options={[{ value: 'all', name: 'All' }, { value: 'here', name: 'Here', hint: 'What this scene grows or has of its own' }, { value: 'flower', name: 'Bloom', hint: 'What flowers in the season of the scene' }]}
          onChange={(which) => change({ here: which === 'here', flowering: which === 'flower' ? season : null })}
        />
        </>}
        <SeasonSlider
          label="Season of the scene"
          short="Season"
          value={document.season ?? 1}
          className="ml-auto w-24"
          onChange={(value, gesture) => run({ do: 'set_season', value }, gesture, gesture && 'season')}
        />
        {shelf === 'species' && <nav aria-label="Kinds" className="flex w-full flex-wrap gap-1">
          {[{ id: null, name: 'All' }, ...KINDS].map((k) => (
            <button
              key={k.name}
              type="button"
              aria-pressed={wanted.kind === k.id}
              onClick={() => change({ kind: k.id })}
              className={`h-6 rounded-full border px-2 text-xs ${wanted.kind === k.id ? 'border-thrift bg-thrift-wash font-medium text-ink' : 'border-rule text-soft hover:bg-well'}`}
            >
              {k.name}
            </button>
          ))}
        </nav>}
      </header>}
      {read && <SpeciesImport key={read.view.blob} read={read} all={data?.species ?? []} onClose={() => setRead(null)} />}
      {!read && shelf === 'communities' && <Communities />}
      {!read && shelf === 'species' && <div className="min-h-0 flex-1 overflow-y-auto p-4">
        {data && list.length === 0 && (
          <p className="text-soft">
            Nothing fits.{' '}
            <button type="button" className="underline" onClick={() => setWanted({ words: '', kind: null, here: false, order: wanted.order, flowering: null })}>
              Show all species
            </button>
          </p>
        )}
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(118px,1fr))] gap-3">
          <li>
            <FromFile onRead={setRead} />
          </li>
          {list.map((s) => (
            <SpeciesCard
              key={s.id}
              species={s}
              chosen={s.id === chosen}
              layers={document.layers.filter((l) => growsIt(l, s.id)).length}
              onChoose={() => set({ species: s.id })}
              onBeside={() => set({ beside: beside === s.id ? null : s.id })}
            />
          ))}
        </ul>
      </div>}
      {beside && data && <Beside all={data.species} a={chosen} b={beside} />}
    </section>
  )
}
