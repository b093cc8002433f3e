import type { Species, SpeciesSpec } from '../api/client'
import { NumberField } from '../ui/NumberField'
import { Part } from '../ui/Part'
import { hexFromLinear, linearFromHex } from './colour'
import type { EditSpecies } from './useEditSpecies'

type Colours = SpeciesSpec['colours']
type Tone = Exclude<keyof Colours, 'spread' | 'through' | 'sheen' | 'glow'>

const PLANT: [Tone, string][] = [
  ['root', 'Foot'], ['leaf', 'Leaf'], ['tip', 'Tip'], ['old', 'Old leaf'], ['wood', 'Wood'], ['flower', 'Flower'], ['eye', 'Eye'],
]
const ROCK: [Tone, string][] = [['root', 'Dark'], ['leaf', 'Light'], ['old', 'Lichen'], ['flower', 'Lichen 2']]

/** The colours of a species, each as reflectance. */
export function ColourPart({ species, edit }: { species: Species; edit: EditSpecies }) {
  const colours = species.colours
  const change = (part: Partial<Colours>, gesture?: string) => edit({ colours: { ...colours, ...part } }, gesture)
  return (
    <Part title="Colour">
      <div className="mb-2 flex flex-wrap gap-2">
        {(species.kind === 'rock' ? ROCK : PLANT).map(([id, name]) => (
          <label key={id} className="flex w-9 flex-col items-center gap-0.5 text-center text-[11px] leading-3 text-soft">
            <input
              type="color"
              aria-label={`Colour: ${name.toLowerCase()}`}
              value={hexFromLinear(colours[id])}
              onChange={(e) => change({ [id]: linearFromHex(e.currentTarget.value) }, `colour ${id}`)}
              className="h-7 w-9 cursor-pointer rounded border border-rule bg-panel p-0.5"
            />
            {name}
          </label>
        ))}
      </div>
      <div className="grid grid-cols-2 gap-3">
        <NumberField label="Spread of tones" unit="%" value={colours.spread * 100} min={0} max={100} step={1} digits={0} hint="How far leaves of one plant differ."
          onChange={(v, gesture) => change({ spread: v / 100 }, gesture)} />
        <NumberField label="Light through leaves" unit="%" value={colours.through * 100} min={0} max={100} step={1} digits={0} hint="How much light that falls on one side of a leaf comes out on the other."
          onChange={(v, gesture) => change({ through: v / 100 }, gesture)} />
        <NumberField label="Sheen" testId="sheen" unit="%" value={(colours.sheen ?? 0) * 100} min={0} max={100} step={1} digits={0} hint="How glossy it is: 0 dull, 100 as waxed leaves or wet stone."
          onChange={(v, gesture) => change({ sheen: v / 100 }, gesture)} />
        <NumberField label="Glow" value={colours.glow ?? 0} min={0} max={20} step={0.05} digits={2} hint="Light it gives off by itself: 1 is what it would send back of full daylight."
          onChange={(glow, gesture) => change({ glow }, gesture)} />
      </div>
    </Part>
  )
}
