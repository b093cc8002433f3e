import type { Layer, Schemas } from '../api/client'
import { useScene } from '../state/scene'
import { NumberField } from '../ui/NumberField'
import { Switch } from '../ui/Switch'
import { ROWS, changeRows } from './patterns'

/** Rows, straight or beside a line. */
export function RowsFields({ layer }: { layer: Layer }) {
  const outlines = useScene((s) => s.scene!.document.outlines) ?? []
  const rows = { ...ROWS, ...layer.rows }
  const along = layer.pattern === 'along'
  const field = (label: string, key: keyof Schemas['Rows'] & ('between_m' | 'along_m' | 'turn_deg' | 'offset_m' | 'count'), unit: string, [min, max, step, digits]: number[], hint: string) => (
    <NumberField label={label} testId={`rows-${key}`} unit={unit} value={rows[key] ?? 0} min={min} max={max} step={step} digits={digits} fallback={ROWS[key]} disabled={layer.locked} hint={hint}
      onChange={(v, gesture) => changeRows(layer, { [key]: key === 'count' ? Math.round(v) : v }, gesture)} />
  )
  return (
    <div className="flex w-full flex-col gap-2">
      {along && (
        <label className="flex items-center gap-2 text-xs text-soft">
          beside
          <select
            aria-label="The line that plants stand along" data-testid="rows-line" disabled={layer.locked} value={rows.line ?? ''} onChange={(e) => changeRows(layer, { line: Number(e.currentTarget.value) })}
            className="h-7 min-w-0 flex-1 rounded-md border border-rule bg-panel px-2 text-[13px] text-ink"
          >
            {!outlines.some((o) => o.id === rows.line) && <option value={rows.line ?? ''}>{outlines.length === 0 ? 'Draw a line first: Site, Outlines' : 'choose a line'}</option>}
            {outlines.map((o) => (
              <option key={o.id} value={o.id}>
                {o.name}
              </option>
            ))}
          </select>
        </label>
      )}
      <div className="grid w-full grid-cols-3 gap-2">
        {field('Row to row', 'between_m', 'm', [0.05, 500, 0.05, 2], 'From one row to the next. The amount goes along, so that every place is filled.')}
        {field('In the row', 'along_m', 'm', [0.05, 500, 0.05, 2], 'From plant to plant in a row. The amount goes along, so that every place is filled.')}
        <NumberField label="Straying" testId="rows-jitter" unit="%" value={rows.jitter * 100} min={0} max={100} step={1} digits={0} fallback={20} disabled={layer.locked}
          hint="How far plants stray from their places: at 100 up to half the spacing each way." onChange={(v, gesture) => changeRows(layer, { jitter: v / 100 }, gesture)} />
        {along ? (
          <>
            {field('Rows', 'count', '', [1, 50, 1, 0], 'The first to the right of the line, the next to its left, and so on outwards.')}
            {field('From the edge', 'offset_m', 'm', [0, 500, 0.05, 2], 'How far the first rows lie from the edge of the line.')}
          </>
        ) : (
          field('Runs towards', 'turn_deg', '°', [-360, 360, 1, 0], 'Degrees clockwise from north.')
        )}
        <label className="flex items-end gap-2 pb-1.5 text-xs text-soft">
          <Switch label="Staggered" on={rows.staggered} disabled={layer.locked} onChange={(staggered) => changeRows(layer, { staggered })} />
          Staggered
        </label>
      </div>
    </div>
  )
}
