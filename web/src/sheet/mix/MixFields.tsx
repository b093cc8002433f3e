import { ArrowUpRight, Plus, Trash2 } from 'lucide-react'
import type { Layer } from '../../api/client'
import { Portrait } from '../../nursery/Portrait'
import { useSpecies } from '../../state/data'
import { percents, withPart, withSpecies } from '../../state/mix'
import { useScene } from '../../state/scene'
import { useUi } from '../../state/ui'
import { Button } from '../../ui/Button'
import { IconButton } from '../../ui/IconButton'
import { NumberField } from '../../ui/NumberField'
import { SpeciesChoice } from '../SpeciesChoice'
import { MixBar } from './MixBar'

/** Species of a mix, at most; as in the core. */
const MOST = 16

/** What grows: one species or several with their shares. */
export function MixFields({ layer }: { layer: Layer }) {
  const { data: species } = useSpecies()
  const { editLayer } = useScene.getState()
  const set = useUi((s) => s.set)
  const { mix } = layer
  const share = percents(mix)
  const change = (value: Layer['mix'], gesture?: string) => editLayer(layer.id, { set: 'mix', value }, gesture)
  const taken = mix.map((m) => m.species)
  const mapped = layer.masks.some((m) => m.enabled && m.drives?.what === 'mix')
  // Something of the same kind that is not there yet is the likeliest wish.
  const kind = species?.find((s) => s.id === mix[0].species)?.kind
  const next = species?.find((s) => s.kind === kind && !taken.includes(s.id)) ?? species?.find((s) => !taken.includes(s.id))
  return (
    <div className="flex flex-col gap-2">
      {mix.length > 1 && <MixBar mix={mix} species={species} disabled={layer.locked} onChange={change} />}
      <ul className="flex flex-col gap-1.5">
        {mix.map((m, i) => {
          const own = species?.find((s) => s.id === m.species)
          return (
            <li key={m.species} className="flex items-center gap-1.5" data-testid={`mix-${m.species}`}>
              {own && <Portrait species={own} urgent className={mix.length === 1 ? 'size-14 rounded-md' : 'size-8 rounded'} />}
              <SpeciesChoice
                label={mix.length === 1 ? 'Species' : `Species ${i + 1}`} value={m.species} taken={taken} disabled={layer.locked}
                onChange={(to) => change(mix.map((other, k) => (k === i ? { ...other, species: to } : other)))}
              />
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
        <Button disabled={layer.locked || !next || mix.length >= MOST} onClick={() => change(withSpecies(mix, next!.id))} data-testid="add-species">
          <Plus size={13} aria-hidden />
          Add a species
        </Button>
        {mix.length > 1 && (
          <span className="text-xs text-soft">
            {mapped ? 'A mask leads from the first to the last of them.' : 'A mask can say which where.'}
          </span>
        )}
      </div>
    </div>
  )
}
