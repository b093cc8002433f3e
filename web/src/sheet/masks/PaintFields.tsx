import { Brush } from 'lucide-react'
import type { Layer } from '../../api/client'
import { freshId, useScene } from '../../state/scene'
import { useUi } from '../../state/ui'
import { Button } from '../../ui/Button'
import { Choice } from '../../ui/Choice'
import { NumberField } from '../../ui/NumberField'
import { DEFAULT_BRUSH, PAINT_TOOLS, type PaintTool, type Painting } from './painting'

interface PaintFieldsProps {
  layer: Layer
  paint: number
  onChoose(paint: number): void
}

/** The brush of a painted mask, and which painting it looks at; several layers may look at one. */
export function PaintFields({ layer, paint, onChoose }: PaintFieldsProps) {
  const { run } = useScene.getState()
  const document = useScene((s) => s.scene!.document)
  const painting = useUi((s) => s.painting)
  const set = useUi((s) => s.set)
  const all = document.paints ?? []
  const own = all.find((p) => p.id === paint)
  const on = painting?.paint === paint
  const brush: Painting = on ? painting : { ...DEFAULT_BRUSH, ...painting, paint }
  const hold = (part: Partial<Painting>) => set({ painting: { ...brush, ...part, paint }, probing: false, drawing: null })
  const others = document.layers.filter((l) => l.id !== layer.id && l.masks.some((m) => m.paint === paint))
  const strokes = own?.strokes ?? []
  return (
    <div className="mt-1 flex flex-col gap-2" data-testid="paint-fields">
      <div className="flex items-center gap-2">
        <Choice
          label="What the brush does" value={on ? brush.tool : null} disabled={layer.locked || !own}
          options={PAINT_TOOLS.map((t) => ({ value: t.id, name: t.name, hint: t.hint }))}
          onChange={(tool: PaintTool) => hold({ tool })}
        />
        {on && (
          <Button look="quiet" onClick={() => set({ painting: null })}>
            Put the brush down
          </Button>
        )}
      </div>
      {on && (
        <>
          <div className="grid grid-cols-4 gap-1">
            <NumberField label="Radius" testId="paint-radius" unit="m" value={brush.radius_m} min={0.02} max={1000} step={0.1} digits={2} hint={'How far to either side it reaches. + and \u2212 change it.'} onChange={(radius_m) => hold({ radius_m })} />
            <NumberField label="Strength" testId="paint-strength" unit="%" value={brush.strength * 100} min={0} max={100} step={1} digits={0} hint="How far one stroke goes. A pen does so in proportion to how firmly it is pressed." onChange={(v) => hold({ strength: v / 100 })} />
            <NumberField label="Falloff" testId="paint-falloff" unit="%" value={brush.falloff * 100} min={0} max={100} step={1} digits={0} hint="How much of the radius fades out." onChange={(v) => hold({ falloff: v / 100 })} />
            <NumberField label="Ragged edge" testId="paint-ragged" unit="%" value={brush.ragged * 100} min={0} max={100} step={1} digits={0} hint="How ragged its edge is." onChange={(v) => hold({ ragged: v / 100 })} />
          </div>
          <p className="flex items-start gap-1.5 text-xs text-soft">
            <Brush size={13} className="mt-0.5 shrink-0" aria-hidden />
            Drag over the ground. Shift turns adding into erasing. Right-drag turns the view. Each stroke is one step to undo.
          </p>
        </>
      )}
      <div className="flex flex-wrap items-center gap-2 text-xs text-soft">
        <span data-testid="paint-strokes">{strokes.length === 0 ? 'Nothing is painted yet.' : `${strokes.length} ${strokes.length === 1 ? 'stroke' : 'strokes'}.`}</span>
        {strokes.length > 0 && (
          <Button look="quiet" className="h-5!" disabled={layer.locked} onClick={() => run({ do: 'put_paint', value: { ...own!, strokes: [] } })}>
            Start anew
          </Button>
        )}
        {others.length > 0 && <span>Shared with {others.map((l) => l.name).join(', ')}: what is painted counts for all of them.</span>}
      </div>
      {own && (
        <div className="flex items-center gap-2 text-xs text-soft">
          Where nothing is painted
          <Choice
            label="Where nothing is painted" value={(own.bare ?? 0) > 0.5 ? 'all' : 'none'} disabled={layer.locked}
            options={[{ value: 'none', name: 'None', hint: 'Paint where plants may grow.' }, { value: 'all', name: 'All', hint: 'Erase where they may not.' }]}
            onChange={(bare) => run({ do: 'put_paint', value: { ...own, bare: bare === 'all' ? 1 : 0 } })}
          />
        </div>
      )}
      {all.length > 1 && (
        <label className="flex items-center gap-2 text-xs text-soft">
          Painting
          <select aria-label="Which painting" data-testid="mask-paint" disabled={layer.locked} value={paint} onChange={(e) => onChoose(Number(e.currentTarget.value))}
            className="h-7 min-w-0 flex-1 rounded-md border border-rule bg-panel px-2 text-[13px] text-ink">
            {!own && <option value={paint}>a painting that is gone</option>}
            {all.map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
          </select>
        </label>
      )}
      {others.length > 0 && (
        <Button
          look="quiet" className="self-start" disabled={layer.locked}
          title="A copy of this painting for this layer alone; they go their own way from here"
          onClick={() => {
            const id = freshId(all)
            const masks = layer.masks.map((m) => (m.paint === paint ? { ...m, paint: id } : m))
            run({ do: 'all', commands: [{ do: 'put_paint', value: { ...own!, id, name: `${layer.name}, painted` } }, { do: 'edit_layer', id: layer.id, edit: { set: 'masks', value: masks } }] })
          }}
        >
          Use a copy for this layer alone
        </Button>
      )}
    </div>
  )
}
