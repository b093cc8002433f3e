import { ArrowUpRight, ChevronsUpDown, Plus, Trash2 } from 'lucide-react'
import type { Layer } from '../../api/client'
import { Portrait } from '../../nursery/Portrait'
import { SpeciesPicker } from '../../nursery/SpeciesPicker'
import { usePlants, useSpecies } from '../../state/data'
import { percents, withPart, withSpecies } from '../../state/mix'
import { useScene } from '../../state/scene'
import { useUi } from '../../state/ui'
import { Button } from '../../ui/Button'
import { IconButton } from '../../ui/IconButton'
import { NumberField } from '../../ui/NumberField'
import { showCount } from '../../ui/parse'
import { MixBar } from './MixBar'

/** Species of a mix, at most; as in the core. */
const MOST = 16

/** What grows: one species or several with their shares. */
export function MixFields({ layer }: { layer: Layer }) {
  const { data: species } = useSpecies()
  const { data: grown } = usePlants(layer)
  const { editLayer } = useScene.getState()
  const set = useUi((s) => s.set)
  const { mix } = layer
  const share = percents(mix)
  const change = (value: Layer['mix'], gesture?: string) => editLayer(layer.id, { set: 'mix', value }, gesture)
  const taken = mix.map((m) => m.species)
  const mapped = layer.masks.some((m) => m.enabled && m.drives?.what === 'mix')
  // Something of the same kind is the likeliest wish.
  const kind = species?.find((s) => s.id === mix[0].species)?.kind
  return (
    <div className="flex flex-col gap-2">
      {mix.length > 1 && <MixBar mix={mix} species={species} disabled={layer.locked} onChange={change} />}
      <ul className="flex flex-col gap-1.5">
        {mix.map((m, i) => {
          const own = species?.find((s) => s.id === m.species)
          return (
            <li key={m.species} className="flex items-center gap-1.5" data-testid={`mix-${m.species}`}>
              <SpeciesPicker
                title={`In place of ${own?.name ?? m.species}`} kind={own?.kind} taken={taken}
                onPick={(to) => change(mix.map((other, k) => (k === i ? { ...other, species: to.id } : other)))}
              >
                <button
                  type="button" disabled={layer.locked}
                  title="Grow another species in its place. Everything else stays as it is set."
                  aria-label={mix.length === 1 ? `Species: ${own?.name ?? m.species}` : `Species ${i + 1}: ${own?.name ?? m.species}`}
                  className="flex min-w-0 flex-1 items-center gap-2 rounded-md border border-transparent pr-1 text-left enabled:hover:border-rule enabled:hover:bg-well disabled:opacity-50"
                >
                  {own && <Portrait species={own} urgent className={mix.length === 1 ? 'size-14 shrink-0 rounded-md' : 'size-8 shrink-0 rounded'} />}
                  <span className="min-w-0 flex-1">
                    <span className="block truncate">{own?.name ?? m.species}</span>
                    {mix.length > 1 && grown && (
                      <span className="block truncate font-mono text-[11px] text-soft" data-testid={`stands-${m.species}`}>
                        {showCount(grown.tally.per_species[i] ?? 0)} stand
                      </span>
                    )}
                  </span>
                  {!layer.locked && <ChevronsUpDown size={12} className="shrink-0 text-soft" aria-hidden />}
                </button>
              </SpeciesPicker>
              {mix.length > 1 && (
                <div className="w-[68px]">
                  <NumberField
                    hideLabel label={`Share of ${own?.name ?? m.species}`} testId={`share-${m.species}`} unit="%" value={share[i]} min={0} max={99} step={1} digits={0} disabled={layer.locked}
                    hint="Its part of the plants. The others keep their proportion; no plant moves, and only as many as must change their species."
                    onChange={(v, gesture) => change(withPart(mix, i, v / 100), gesture)}
                  />
                </div>
              )}
              <IconButton icon={ArrowUpRight} label={`Look at ${own?.name ?? m.species} in the nursery`} disabled={!own} onClick={() => set({ species: m.species, shelf: 'species', station: 'nursery' })} />
              {mix.length > 1 && (
                <IconButton icon={Trash2} label={`Take ${own?.name ?? m.species} out of the mix`} disabled={layer.locked} onClick={() => change(mix.filter((_, k) => k !== i))} />
              )}
            </li>
          )
        })}
      </ul>
      <div className="flex items-center gap-2">
        <SpeciesPicker
          title="Add to the mix" kind={kind} taken={taken} onPick={(s) => change(withSpecies(mix, s.id))}
          several={[{ label: 'Add all', hint: 'Each gets an equal part of the plants.', onPick: (all) => change(all.reduce((m, s) => withSpecies(m, s.id), mix)) }]}
        >
          <Button disabled={layer.locked || mix.length >= MOST} data-testid="add-species">
            <Plus size={13} aria-hidden />
            Add a species
          </Button>
        </SpeciesPicker>
        {mix.length > 1 && (
          <span className="text-xs text-soft">
            {mapped ? 'A mask leads from the first to the last of them.' : 'A mask can say which where.'}
          </span>
        )}
      </div>
    </div>
  )
}
