import { useScene } from '../../state/scene'
import { sayWay, wayOf, type Way } from './clearance'

const WAYS: { value: Way; name: string }[] = [
  { value: 'yields', name: 'yields to it' },
  { value: 'together', name: 'grows through it' },
  { value: 'claims', name: 'claims before it' },
]

/** Which of two layers gives way to which, shown and set wherever it decides. */
export function YieldSelect({ of, to }: { of: number; to: number }) {
  const scene = useScene((s) => s.scene!)
  const { layers, yields = [] } = scene.document
  const layer = layers.find((l) => l.id === of)
  const other = layers.find((l) => l.id === to)
  if (!layer || !other) return null
  const order = [...scene.layers].sort((a, b) => a.claims_at - b.claims_at).map((l) => l.id)
  const yieldsTo = (id: number) => scene.layers.find((l) => l.id === id)?.yields_to ?? []
  const said = yields.some((y) => [y.layer, y.to].includes(of) && [y.layer, y.to].includes(to))
  return (
    <select
      aria-label={`${layer.name} and ${other.name}`} disabled={layer.locked} value={wayOf(of, to, yieldsTo)}
      onChange={(e) => {
        const command = sayWay(order, yields, of, to, e.currentTarget.value as Way)
        if (command) useScene.getState().run(command)
      }}
      className={`h-6 rounded-md border border-rule bg-panel px-1 ${said ? 'font-medium text-ink' : 'text-soft'}`}
      title={said ? 'Said here, against the usual order' : 'The usual order: stones lie first, then the layer claims whose tallest species grows higher'}
    >
      {WAYS.map((w) => (
        <option key={w.value} value={w.value}>
          {w.name}
        </option>
      ))}
    </select>
  )
}
