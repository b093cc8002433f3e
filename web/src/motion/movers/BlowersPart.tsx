import { Plus } from 'lucide-react'
import type { Schemas } from '../../api/client'
import { useScene } from '../../state/scene'
import { useUi } from '../../state/ui'
import { Button } from '../../ui/Button'
import { Choice } from '../../ui/Choice'
import { NumberField } from '../../ui/NumberField'
import { Part } from '../../ui/Part'
import { CourseFields, MoverRow, reachedWords } from './MoverList'
import type { Blower } from './movers'

/** Local sources of wind. */
export function BlowersPart({ facts }: { facts: Schemas['MotionFacts'] | undefined }) {
  const blowers = useScene((s) => s.scene!.document.blowers) ?? []
  const { run } = useScene.getState()
  const { drawing, set } = useUi()
  return (
    <Part title="Blowers" summary={blowers.length === 0 ? 'none yet' : `${blowers.length} of 8`}>
      <Button
        data-testid="add-blower" disabled={blowers.length >= 8} aria-pressed={drawing?.what === 'mover' && drawing.kind === 'blower'}
        title="A source of wind of its own: the wash below a drone, a draught through a door" onClick={() => set({ drawing: { what: 'mover', kind: 'blower' }, chosen: null, probing: false })}
      >
        <Plus size={13} aria-hidden />
        Blower
      </Button>
      <ul className="mt-1 -ml-1">
        {blowers.map((b) => (
          <MoverRow
            key={b.id} what="blower" id={b.id} name={b.name} word={b.course.kind === 'path' ? 'Along a path' : 'Standing'} on={b.enabled}
            onName={(name) => run({ do: 'change', what: { of: 'blower', id: b.id }, fields: { name } })}
            onToggle={() => run({ do: 'change', what: { of: 'blower', id: b.id }, fields: { enabled: !b.enabled } })}
            onDelete={() => run({ do: 'remove_blower', id: b.id })}
          >
            <BlowerFields blower={b} facts={facts} />
          </MoverRow>
        ))}
      </ul>
    </Part>
  )
}

function BlowerFields({ blower: b, facts }: { blower: Blower; facts: Schemas['MotionFacts'] | undefined }) {
  const { run } = useScene.getState()
  const layers = useScene((s) => s.scene!.document.layers)
  const change = (fields: Partial<Blower>, gesture?: string) =>
    run({ do: 'change', what: { of: 'blower', id: b.id }, fields }, gesture, gesture && `blower ${b.id} ${Object.keys(fields)}`)
  const reached = facts?.reached.blowers.find((r) => r.id === b.id)
  return (
    <>
      <div className="grid grid-cols-3 gap-1.5">
        <NumberField label="Speed" testId="blower-speed" unit="m/s" value={b.speed_m_per_s} min={0} max={60} step={0.5} digits={1} fallback={12} hint="Of the air next to it." onChange={(speed_m_per_s, g) => change({ speed_m_per_s }, g)} />
        <NumberField label="Reach" testId="blower-reach" unit="m" value={b.reach_m} min={0.5} max={500} step={0.25} digits={2} fallback={8} hint="Farther off than this nothing feels it." onChange={(reach_m, g) => change({ reach_m }, g)} />
        <NumberField label="Fades" testId="blower-falloff" value={b.falloff} min={0.25} max={4} step={0.05} digits={2} fallback={1} hint="How soon it fades: below 1 late and at once, above 1 early and gently." onChange={(falloff, g) => change({ falloff }, g)} />
      </div>
      <div className="flex items-end gap-2">
        <Choice
          label="Which way it blows" value={b.blows.kind}
          options={[{ value: 'outwards', name: 'To all sides', hint: 'Away from below it, as a wash from above' }, { value: 'from', name: 'One way', hint: 'From one direction' }]}
          onChange={(kind) => change({ blows: kind === 'from' ? { kind, deg: 250 } : ({ kind, deg: null } as unknown as Blower['blows']) })}
        />
        {b.blows.kind === 'from' && (
          <div className="w-24">
            <NumberField label="From" testId="blower-from" unit="°" value={b.blows.deg} min={0} max={360} step={1} digits={0} hint="Where it comes from, degrees clockwise from north." onChange={(deg, g) => change({ blows: { kind: 'from', deg } }, g)} />
          </div>
        )}
      </div>
      <CourseFields of="blower" id={b.id} course={b.course} onChange={(course, g) => run({ do: 'put_blower', value: { ...b, course } }, g, g && `blower ${b.id} course`)} />
      {b.enabled && reached && (
        <p className="text-xs text-soft" data-testid="blower-reaches">
          {reachedWords(layers.filter((l) => reached.layers.includes(l.id)).map((l) => l.name), 'stirs')}
        </p>
      )}
    </>
  )
}
