import { Dices } from 'lucide-react'
import type { Layer } from '../api/client'
import { usePlants } from '../state/data'
import { useScene } from '../state/scene'
import { Button } from '../ui/Button'
import { NumberField } from '../ui/NumberField'
import { Part } from '../ui/Part'
import { showCount } from '../ui/parse'
import { AmountFields } from './AmountFields'
import { KeptSeeds } from './KeptSeeds'
import { PatternChoice } from './PatternChoice'
import { TallyBar } from './TallyBar'

/** How much: amount, pattern, arrangement, and the account of what came of it. */
export function HowMuch({ layer }: { layer: Layer }) {
  const { editLayer } = useScene.getState()
  const { data, error, isFetching } = usePlants(layer)
  // Until a change is saved and its plants are there, numbers are those of before.
  const before = useScene((s) => s.saving.waiting > 0) || isFetching
  return (
    <Part
      title="How much"
      settings={['amount', 'pattern']}
      summary={data && `on ${showCount(data.tally.allowed_m2)} m² of allowed ground`}
    >
      <div data-setting="amount">
        <AmountFields layer={layer} />
      </div>
      {error && (
        <p role="alert" className="mt-2 rounded bg-iron-wash px-2 py-1.5">
          This layer could not grow: {error.message}.
        </p>
      )}
      {data && <TallyBar of={layer.id} tally={data.tally} growing={before} byChance={layer.pattern === 'random' || layer.pattern === 'clumped'} />}
      {data?.tally.room != null && (
        <p className="mt-1 text-xs text-soft" data-testid="room">
          This pattern has {showCount(data.tally.room)} places on the whole ground; a larger amount finds no more.
        </p>
      )}
      <div className="mt-3 flex flex-col gap-2.5">
        <div data-setting="pattern">
          <PatternChoice layer={layer} />
        </div>
        <div className="grid grid-cols-[1fr_auto_1fr] items-end gap-2">
          <NumberField
            label="Seed"
            testId="seed"
            value={layer.seed}
            min={0}
            max={4294967295}
            step={1}
            digits={0}
            disabled={layer.locked}
            hint="Another number, another arrangement. Changes nothing else."
            onChange={(value, gesture) => editLayer(layer.id, { set: 'seed', value: Math.round(value) }, gesture)}
          />
          <Button
            disabled={layer.locked}
            onClick={() => editLayer(layer.id, { set: 'seed', value: (layer.seed + 1) % 4294967296 })}
          >
            <Dices size={14} aria-hidden />
            Another
          </Button>
          <NumberField
            label="At most"
            testId="cap"
            value={layer.cap}
            min={1}
            max={10_000_000}
            step={1000}
            digits={0}
            disabled={layer.locked}
            hint="A ceiling for this layer. When it is reached, the rest is counted and shown, never dropped in silence."
            onChange={(value, gesture) => editLayer(layer.id, { set: 'cap', value: Math.round(value) }, gesture)}
          />
        </div>
        <KeptSeeds layer={layer} />
      </div>
    </Part>
  )
}
