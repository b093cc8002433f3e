import { useUi, type Reading } from '../state/ui'
import { Hint } from '../ui/Hint'
import { Part } from '../ui/Part'
import { READINGS } from '../view/readings'

/** Chooses what is read off the ground and laid over it. Changes nothing in the scene. */
export function ReadingPart() {
  const { reading, set } = useUi()
  return (
    <Part title="Reading the ground" summary={reading ? READINGS[reading].name.toLowerCase() : 'nothing laid over it'}>
      <div className="grid grid-cols-2 gap-1" role="group" aria-label="Laid over the ground">
        {(Object.keys(READINGS) as Reading[]).map((id) => (
          <Hint key={id} text={READINGS[id].hint}>
            <button
              type="button"
              aria-pressed={reading === id}
              data-testid={`read-${id}`}
              className={`h-7 rounded-md border px-2 text-left ${
                reading === id ? 'border-thrift bg-thrift-wash font-medium' : 'border-rule hover:bg-well'
              }`}
              onClick={() => set({ reading: reading === id ? null : id })}
            >
              {READINGS[id].name}
            </button>
          </Hint>
        ))}
      </div>
      <p className="mt-2 text-xs text-soft">Values are shown under the pointer; the legend keeps the histogram of the whole ground.</p>
    </Part>
  )
}
