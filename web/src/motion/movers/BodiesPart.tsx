import { Plus } from 'lucide-react'
import type { Schemas } from '../../api/client'
import { useScene } from '../../state/scene'
import { useUi } from '../../state/ui'
import { Button } from '../../ui/Button'
import { NumberField } from '../../ui/NumberField'
import { Part } from '../../ui/Part'
import { Switch } from '../../ui/Switch'
import { CourseFields, MoverRow, reachedWords } from './MoverList'
import { MeshImport } from '../../site/obstacles/MeshImport'
import { keepClear } from './keepClear'
import { FORMS, LOOSE, formWord, nodesOf, onCourse, type Body, type ReadyForm } from './movers'

const MEASURES: Record<string, { label: string; digits: number; unit: string; min: number; max: number; step: number }> = {
  radius_m: { label: 'Radius', digits: 2, unit: 'm', min: 0.05, max: 50, step: 0.05 },
  length_m: { label: 'Length', digits: 2, unit: 'm', min: 0.05, max: 50, step: 0.05 },
  size_m: { label: 'Across', digits: 2, unit: 'm', min: 0.05, max: 50, step: 0.05 },
  form: { label: 'Form', digits: 0, unit: '', min: 0, max: 5, step: 1 },
}

/** What moves through the scene and presses down what grows. */
export function BodiesPart({ facts }: { facts: Schemas['MotionFacts'] | undefined }) {
  const bodies = useScene((s) => s.scene!.document.bodies) ?? []
  const { run } = useScene.getState()
  const { drawing, set } = useUi()
  return (
    <Part title="Bodies" summary={bodies.length === 0 ? 'none yet' : `${bodies.length} of 8`}>
      <div className="flex flex-wrap gap-1.5" role="group" aria-label="Put a body in">
        {(Object.keys(FORMS) as ReadyForm[]).map((kind) => (
          <Button
            key={kind} data-testid={`add-${kind}`} disabled={bodies.length >= 8} aria-pressed={drawing?.what === 'mover' && drawing.kind === kind}
            title="Click where it is, or click its way" onClick={() => set({ drawing: { what: 'mover', kind }, chosen: null, probing: false })}
          >
            <Plus size={13} aria-hidden />
            {FORMS[kind].name}
          </Button>
        ))}
      </div>
      {bodies.length < 8 && (
        <MeshImport
          action="Put it in" testId="body-mesh"
          onPlace={({ blob, name, placing }, size) => set({ drawing: { what: 'mover', kind: 'mesh', form: { kind: 'mesh', blob, name, placing, size_m: Math.min(50, Math.max(0.05, Number(Math.max(...size).toFixed(3)))) } }, chosen: null, probing: false })}
        />
      )}
      <ul className="mt-1 -ml-1">
        {bodies.map((b) => (
          <MoverRow
            key={b.id} what="body" id={b.id} name={b.name} word={formWord(b.form)} on={!b.hidden}
            onName={(name) => run({ do: 'change', what: { of: 'body', id: b.id }, fields: { name } })}
            onToggle={() => run({ do: 'change', what: { of: 'body', id: b.id }, fields: { hidden: !b.hidden } })}
            onDelete={() => run({ do: 'remove_body', id: b.id })}
          >
            <BodyFields body={b} facts={facts} />
          </MoverRow>
        ))}
      </ul>
    </Part>
  )
}

function BodyFields({ body: b, facts }: { body: Body; facts: Schemas['MotionFacts'] | undefined }) {
  const { run } = useScene.getState()
  const layers = useScene((s) => s.scene!.document.layers)
  const change = (fields: Record<string, unknown>, gesture?: string) =>
    run({ do: 'change', what: { of: 'body', id: b.id }, fields }, gesture, gesture && `body ${b.id} ${JSON.stringify(Object.keys(fields))}`)
  const met = facts?.reached.bodies.find((r) => r.id === b.id)
  const form = b.form as Body['form'] & Record<string, number>
  return (
    <>
      <div className="grid grid-cols-3 gap-1.5">
        {Object.entries(MEASURES).filter(([key]) => key in form).map(([key, m]) => (
          <NumberField key={key} {...m} testId={`body-${key}`} value={form[key]} onChange={(v, g) => change({ form: { [key]: m.digits === 0 ? Math.round(v) : v } }, g)} />
        ))}
      </div>
      <div className="flex items-center gap-1.5 text-xs text-soft">
        <Switch label="Plants feel it" on={b.felt} onChange={(felt) => change({ felt })} />
        plants feel it
      </div>
      <Button
        look="quiet" className="self-start" data-testid="keep-clear"
        title={b.course.kind === 'path' ? 'A track along its path, which layers keep clear of; it is a line like any other' : 'A line round where it stands that no layer grows in; it is a line like any other'}
        onClick={() => run(keepClear(useScene.getState().scene!.document, b))}
      >
        Keep plants clear of {b.course.kind === 'path' ? 'its path' : 'it'}
      </Button>
      <CourseFields of="body" id={b.id} course={b.course} onChange={(course, g) => run({ do: 'put_body', value: onCourse(b, course) }, g, g && `body ${b.id} course`)} />
      <div className="flex items-center gap-1.5 text-xs text-soft">
        <Switch label="Let it go" on={Boolean(b.loose)} onChange={(on) => change({ loose: on ? { ...LOOSE, at_s: b.course.kind === 'path' ? nodesOf(b.course).at(-1)!.time_s : 0 } : null })} />
        {b.course.kind === 'path' ? 'let it go at the end of its path' : 'let it go: it falls, rolls and bounces'}
      </div>
      {b.loose && <LooseFields loose={b.loose} earliest={b.course.kind === 'path' ? nodesOf(b.course).at(-1)!.time_s : 0} onChange={(part, g) => change({ loose: part }, g)} />}
      {!b.hidden && met && (
        <p className="text-xs text-soft" data-testid="body-meets">
          {reachedWords(layers.filter((l) => met.layers.includes(l.id)).map((l) => l.name), b.felt ? 'presses down' : 'passes through')}
        </p>
      )}
    </>
  )
}

function LooseFields({ loose: l, earliest, onChange }: { loose: Schemas['Loose']; earliest: number; onChange(part: Partial<Schemas['Loose']>, gesture?: string): void }) {
  const [x, y, z] = l.velocity_m_per_s
  const push = { unit: 'm/s', min: -100, max: 100, step: 0.25, digits: 2, fallback: 0 }
  return (
    <div className="grid grid-cols-3 gap-1.5" data-testid="loose">
      <NumberField label="At" testId="loose-at" unit="s" value={l.at_s} min={earliest} max={3600} step={0.1} digits={2} hint="When it is let go." onChange={(at_s, g) => onChange({ at_s }, g)} />
      <NumberField label="Weight" testId="loose-density" unit="kg/m³" value={l.density_kg_per_m3} min={1} max={20000} step={10} digits={0} fallback={400} hint="Of each cubic metre of it; what is lighter than water, 1000, floats. Stone has about 2600." onChange={(density_kg_per_m3, g) => onChange({ density_kg_per_m3 }, g)} />
      <NumberField label="Wind" testId="loose-wind" unit="%" value={l.wind_share * 100} min={0} max={100} step={5} digits={0} fallback={0} hint="How much of the wind pushes it." onChange={(v, g) => onChange({ wind_share: v / 100 }, g)} />
      <NumberField label="Push east" testId="loose-east" value={x} {...push} onChange={(v, g) => onChange({ velocity_m_per_s: [v, y, z] }, g)} />
      <NumberField label="Push north" testId="loose-north" value={-z} {...push} onChange={(v, g) => onChange({ velocity_m_per_s: [x, y, -v] }, g)} />
      <NumberField label="Push up" testId="loose-up" value={y} {...push} onChange={(v, g) => onChange({ velocity_m_per_s: [x, v, z] }, g)} />
      <NumberField label="Bounce" testId="loose-bounce" unit="%" value={l.bounce * 100} min={0} max={100} step={5} digits={0} fallback={30} hint="Share of its speed that it keeps when it bounces." onChange={(v, g) => onChange({ bounce: v / 100 }, g)} />
      <NumberField label="Friction" testId="loose-friction" value={l.friction} min={0} max={2} step={0.05} digits={2} fallback={0.7} hint="At 0 it slides like on ice." onChange={(friction, g) => onChange({ friction }, g)} />
    </div>
  )
}
