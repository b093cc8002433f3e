import { PanelLeftClose } from 'lucide-react'
import { useState } from 'react'
import type { Layer } from '../api/client'
import { useSpecies } from '../state/data'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { IconButton } from '../ui/IconButton'
import { showNumber } from '../ui/parse'
import { AddLayer } from './AddLayer'
import { BANDS, bandOf, reach } from './bands'
import { GroupRows } from './GroupRows'
import { LayerRow } from './LayerRow'
import { ProfileRail } from './ProfileRail'
import { useGrown } from '../drawer/useGrown'
import { growsIt, leadOf } from '../state/mix'
import { sifted } from './sifted'
import { useClipboard } from './useClipboard'

/** From so many layers on they can be looked through. */
const SIFTED_FROM = 6

/** The scene's layers as a vegetation profile: each in the band its plants really reach. */
export function Profile() {
  const layers = useScene((s) => s.scene!.document.layers)
  const { run } = useScene.getState()
  const { folded, fold, tucked } = useUi()
  const { data: species } = useSpecies()
  const [dragged, setDragged] = useState<number | null>(null)
  const speciesOf = (l: Layer) => species?.find((s) => s.id === leadOf(l))

  const [words, setWords] = useState('')
  const grown = useGrown()
  // Where a few layers are left there is nothing to look through.
  const wanted = layers.length >= SIFTED_FROM ? words.trim() : ''
  const known = (l: Layer) => ({ species: species?.filter((s) => growsIt(l, s.id)) ?? [], tally: grown.find((g) => g.layer.id === l.id)?.tally })
  // What is looked for shows, also in a group that is folded.
  const kept = wanted === '' ? layers.filter((l) => !l.group || !tucked.includes(l.group)) : layers.filter((l) => sifted(l, known(l), wanted))
  useClipboard()

  const drop = (onto: Layer) => {
    const from = layers.findIndex((l) => l.id === dragged)
    const to = layers.findIndex((l) => l.id === onto.id)
    if (dragged !== null && from >= 0 && from !== to) run({ do: 'move_layer', id: dragged, place: to })
    setDragged(null)
  }
  const nudge = (layer: Layer, by: number, band: Layer[]) => {
    const other = band[band.findIndex((l) => l.id === layer.id) + by]
    if (other) run({ do: 'move_layer', id: layer.id, place: layers.findIndex((l) => l.id === other.id) })
  }
  if (folded.profile) return <ProfileRail />
  return (
    <aside aria-label="Profile" className="flex w-[250px] shrink-0 flex-col border-r border-rule bg-panel">
      <header className="flex h-11 items-center justify-between px-3">
        <h2 className="font-semibold">Profile</h2>
        <span className="flex items-center gap-1">
          <AddLayer />
          <IconButton icon={PanelLeftClose} label="Fold the profile" onClick={() => fold('profile')} />
        </span>
      </header>
      {layers.length >= SIFTED_FROM && (
        <div className="px-3 pb-1.5">
          <input
            type="search" aria-label="Show only layers that fit" data-testid="sift" placeholder="Name, kind, hidden, locked, cut…" value={words}
            onChange={(e) => setWords(e.currentTarget.value)}
            className="h-6 w-full rounded-md border border-rule bg-panel px-2 text-xs outline-none hover:border-soft focus:border-soft"
          />
        </div>
      )}
      <div className="flex min-h-0 flex-1 flex-col overflow-y-auto pb-4">
        <GroupRows />
        {BANDS.map((band) => {
          const here = kept.filter((l) => bandOf(l, speciesOf(l)) === band.id)
          const height = here.length ? Math.max(...here.map((l) => reach(l, speciesOf(l)))) : null
          return (
            <section key={band.id} aria-label={band.name} className="border-t border-dashed border-rule">
              <div className="flex">
                <div className="relative w-11 shrink-0 border-r border-rule">
                  <span className="absolute top-0 right-0 h-px w-1.5 bg-soft" aria-hidden />
                  {band.id !== 'stone' && (
                    <span className="block pt-0.5 pr-2.5 text-right font-mono text-[11px] leading-4 text-soft">
                      {band.from > 0 ? showNumber(band.from, 1) : '0'} m
                    </span>
                  )}
                </div>
                <div className="min-w-0 flex-1 pb-1">
                  <h3 className="flex justify-between px-2 pt-0.5 text-[11px] leading-4 text-soft">
                    {band.name}
                    {height !== null && <span className="font-mono">to {showNumber(height, 1)} m</span>}
                  </h3>
                  <ul className={here.length ? 'py-0.5' : 'h-3'}>
                    {here.map((layer) => (
                      <LayerRow
                        key={layer.id}
                        layer={layer}
                        dropHere={dragged !== null && here.some((l) => l.id === dragged) && dragged !== layer.id}
                        onDragStart={() => setDragged(layer.id)}
                        onDrop={() => drop(layer)}
                        onNudge={(by) => nudge(layer, by, here)}
                      />
                    ))}
                  </ul>
                </div>
              </div>
            </section>
          )
        })}
        {wanted !== '' && kept.length === 0 && (
          <p className="px-4 pt-3 text-soft">
            No layer fits.{' '}
            <button type="button" className="underline" onClick={() => setWords('')}>
              Show all
            </button>
          </p>
        )}
        {layers.length === 0 && (
          <p className="px-4 pt-3 text-soft">
            Nothing grows yet. Add a layer, look at what it does, then raise its amount.
          </p>
        )}
      </div>
    </aside>
  )
}
