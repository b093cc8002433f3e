import type { PlacedGround } from '../../api/client'
import { usePlaced } from '../../state/data'
import { freshId, useScene } from '../../state/scene'
import { Button } from '../../ui/Button'
import { Choice } from '../../ui/Choice'
import { NumberField } from '../../ui/NumberField'
import { showCount, showNumber } from '../../ui/parse'
import { READY, UPRIGHTS, type PlacedSource, type ReadyGround } from './placed'

/** The settings of a ground beside the land; where it stands can be dragged in the view too. */
export function PlacedFields({ ground: g }: { ground: PlacedGround }) {
  const { run } = useScene.getState()
  const zones = useScene((s) => s.scene!.document.zones) ?? []
  const { data } = usePlaced(g.id)
  const put = (part: Partial<PlacedGround>, gesture?: string) =>
    run({ do: 'put_ground', value: { ...g, ...part } }, gesture, gesture && `ground ${g.id}`)
  const source = g.source as PlacedSource & Record<string, number>
  const fields = g.source.kind in READY ? READY[g.source.kind as ReadyGround].fields : []
  const groups = data?.kind === 'mesh' ? data.data.groups : []
  const file = 'name' in g.source ? (g.source.name as string) : null

  return (
    <div className="flex flex-col gap-2 px-2 pb-2" data-testid="ground-fields">
      <p className="text-xs text-soft">
        {file && <span className="block truncate">{file}</span>}
        {data?.kind === 'mesh' && `${showNumber(data.data.area_m2, 0)} m² of surface, ${showCount(data.data.triangles)} triangles. `}
        {data?.kind === 'terrain' && `${showNumber(data.data.size_m[0], 1)} × ${showNumber(data.data.size_m[1], 1)} m. `}
        What grows on it goes with it and keeps its own size.
      </p>
      {fields.length > 0 && (
        <div className="grid grid-cols-3 gap-1.5">
          {fields.map(({ key, percent, ...f }) => (
            <NumberField
              key={key} {...f} testId={`ground-${key}`} value={percent ? Math.round(source[key] * 1000) / 10 : source[key]}
              onChange={(v, gesture) => put({ source: { ...source, [key]: percent ? v / 100 : f.digits === 0 ? Math.round(v) : v } as PlacedSource }, gesture)}
            />
          ))}
        </div>
      )}
      <div className="grid grid-cols-3 gap-1.5">
        <NumberField label="East" testId="ground-x" unit="m" value={g.x_m} min={-30000} max={30000} step={0.1} digits={2} onChange={(x_m, k) => put({ x_m }, k)} />
        <NumberField label="North" testId="ground-n" unit="m" value={-g.z_m} min={-30000} max={30000} step={0.1} digits={2} onChange={(n, k) => put({ z_m: -n }, k)} />
        <NumberField label="Up" testId="ground-y" unit="m" value={g.y_m} min={-30000} max={30000} step={0.1} digits={2} onChange={(y_m, k) => put({ y_m }, k)} />
        <NumberField label="Turn" testId="ground-turn" unit="°" value={g.turn_deg} min={-360} max={360} step={1} digits={1} fallback={0} hint="Clockwise, seen from above." onChange={(turn_deg, k) => put({ turn_deg }, k)} />
        <NumberField label="Scale" testId="ground-scale" unit="×" value={g.scale} min={0.001} max={1000} step={0.01} digits={3} fallback={1} hint="Plants on it keep their own size and their number per m²." onChange={(scale, k) => put({ scale }, k)} />
      </div>
      <div className="flex items-center gap-2">
        <span className="text-xs text-soft">Upright by</span>
        <Choice label="Plants stand" value={g.upright ?? 'gravity'} options={UPRIGHTS} onChange={(upright) => put({ upright })} />
      </div>
      {groups.length > 0 && (
        <div>
          <p className="text-xs text-soft">Face groups; a click names one as a zone for masks.</p>
          <div className="mt-1 flex max-h-28 flex-wrap gap-1 overflow-y-auto">
            {groups.map((name) => (
              <Button key={name} look="quiet" className="h-6!" onClick={() => run({ do: 'put_zone', value: { id: freshId(zones), name, groups: [{ ground: g.id, name }] } })}>
                {name}
              </Button>
            ))}
          </div>
        </div>
      )}
    </div>
  )
}
