import { Shovel, Undo2 } from 'lucide-react'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { Button } from '../ui/Button'
import { Choice } from '../ui/Choice'
import { NumberField } from '../ui/NumberField'
import { Part } from '../ui/Part'
import { DEFAULT_SCULPTING, TOOLS, allStrokes, type SculptTool, type Sculpting } from './sculpting'

/** Raising, lowering, smoothing and flattening the land and terrains beside it, in the view. */
export function SculptPart() {
  const land = useScene((s) => s.scene!.document.ground.strokes)
  const grounds = useScene((s) => s.scene!.document.grounds)
  const strokes = allStrokes(land, grounds)
  const { run } = useScene.getState()
  const { sculpting, set } = useUi()
  const on = sculpting !== null
  const settings = sculpting ?? DEFAULT_SCULPTING
  const change = (part: Partial<Sculpting>) => set({ sculpting: { ...settings, ...part }, probing: false })
  const lifts = settings.tool === 'raise' || settings.tool === 'lower'

  return (
    <Part title="Sculpt" summary={strokes.length === 0 ? 'untouched' : `${strokes.length} ${strokes.length === 1 ? 'stroke' : 'strokes'}`}>
      <div className="flex items-center gap-2">
        <Choice
          label="What a stroke does"
          value={on ? settings.tool : null}
          options={TOOLS.map((t) => ({ value: t.id, name: t.name, hint: t.hint }))}
          onChange={(tool: SculptTool) => change({ tool })}
        />
      </div>
      {on && (
        <>
          <div className="mt-2.5 grid grid-cols-3 gap-2">
            <NumberField label="Radius" testId="sculpt-radius" unit="m" value={settings.radius_m} min={0.1} max={1000} step={0.25} digits={2} fallback={8}
              hint={'How far to either side a stroke reaches. + and \u2212 change it.'} onChange={(radius_m) => change({ radius_m })} />
            {lifts ? (
              <NumberField label="By" testId="sculpt-height" unit="m" value={settings.height_m} min={0} max={200} step={0.05} digits={2} fallback={1.5}
                hint="How much one stroke lifts or lowers. A second stroke adds to the first." onChange={(height_m) => change({ height_m })} />
            ) : (
              <NumberField label="Strength" testId="sculpt-share" unit="%" value={settings.share * 100} min={0} max={100} step={1} digits={0} fallback={80}
                hint="How far one stroke goes towards its aim." onChange={(v) => change({ share: v / 100 })} />
            )}
            <NumberField label="Falloff" testId="sculpt-falloff" unit="%" value={settings.falloff * 100} min={0} max={100} step={1} digits={0} fallback={70}
              hint="How much of the radius fades out." onChange={(v) => change({ falloff: v / 100 })} />
          </div>
          <p className="mt-2 flex items-start gap-1.5 text-xs text-soft">
            <Shovel size={13} className="mt-0.5 shrink-0" aria-hidden />
            Drag over the land, or over a terrain beside it. Shift turns raising into lowering. Right-drag turns the view, the wheel comes nearer. Plants follow, and
            each stroke can be undone.
          </p>
          <div className="mt-2 flex gap-2">
            <Button onClick={() => set({ sculpting: null })}>Put the tool down</Button>
            {strokes.length > 0 && (
              <Button look="quiet" onClick={() => run({ do: 'all', commands: strokes.reverse().map(({ ground, id }) => ({ do: 'remove_ground_stroke', ground, id })) })}>
                <Undo2 size={13} aria-hidden />
                Take all strokes back
              </Button>
            )}
          </div>
        </>
      )}
    </Part>
  )
}
