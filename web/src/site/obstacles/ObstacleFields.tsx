import type { Obstacle } from '../../api/client'
import { useScene } from '../../state/scene'
import { NumberField } from '../../ui/NumberField'
import { Switch } from '../../ui/Switch'
import type { Shape } from '../onGround'

interface Field {
  label: string
  unit: string
  min: number
  max: number
  step: number
  whole?: boolean
}

const metres = (label: string, min = 0.05, max = 500): Field => ({ label, unit: 'm', min, max, step: 0.05 })

/** The measures of every shape, by the names of its settings. */
const MEASURES: Record<string, Field> = {
  width_m: metres('Width'),
  depth_m: metres('Depth'),
  height_m: metres('Height'),
  radius_m: metres('Radius'),
  thickness_m: metres('Thickness', 0.1, 5),
  eaves_m: metres('Eaves at', 1.8, 20),
  roof_deg: { label: 'Roof', unit: '°', min: 10, max: 70, step: 1 },
  count: { label: 'Steps', unit: '', min: 1, max: 200, step: 1, whole: true },
  rise_m: metres('Rise', 0.05, 2),
  tread_m: metres('Tread', 0.05, 5),
  size_m: metres('Across'),
  form: { label: 'Form', unit: '', min: 0, max: 5, step: 1, whole: true },
}

/** The settings of the chosen obstacle; where it stands can be dragged in the view too. */
export function ObstacleFields({ obstacle: o }: { obstacle: Obstacle }) {
  const { run } = useScene.getState()
  const put = (part: Partial<Obstacle>, gesture?: string) =>
    run({ do: 'put_obstacle', value: { ...o, ...part } }, gesture, gesture && `obstacle ${o.id}`)
  const shape = o.shape as Shape & Record<string, number>
  return (
    <div className="flex flex-col gap-2 px-2 pb-2">
      {o.shape.kind === 'mesh' && <p className="truncate text-xs text-soft">{o.shape.name}</p>}
      <div className="grid grid-cols-3 gap-1.5">
        {Object.entries(MEASURES).filter(([key]) => key in shape).map(([key, f]) => (
          <NumberField
            key={key} label={f.label} testId={`obstacle-${key}`} unit={f.unit} value={shape[key]} min={f.min} max={f.max} step={f.step} digits={f.whole ? 0 : 2}
            onChange={(v, g) => put({ shape: { ...shape, [key]: f.whole ? Math.round(v) : v } as Shape }, g)}
          />
        ))}
      </div>
      <div className="grid grid-cols-2 gap-1.5">
        <NumberField label="East" testId="obstacle-x" unit="m" value={o.x_m} min={-30000} max={30000} step={0.1} digits={2} onChange={(x_m, g) => put({ x_m }, g)} />
        <NumberField label="North" testId="obstacle-n" unit="m" value={-o.z_m} min={-30000} max={30000} step={0.1} digits={2} onChange={(n, g) => put({ z_m: -n }, g)} />
        <NumberField label="Turn" testId="obstacle-turn" unit="°" value={o.turn_deg} min={-360} max={360} step={1} digits={1} fallback={0} hint="Clockwise, seen from above." onChange={(turn_deg, g) => put({ turn_deg }, g)} />
        <NumberField label="Scale" testId="obstacle-scale" unit="×" value={o.scale} min={0.01} max={100} step={0.01} digits={2} fallback={1} onChange={(scale, g) => put({ scale }, g)} />
      </div>
      <div className="flex items-end gap-3">
        <div className="w-24">
          <NumberField label={o.on_ground ? 'Above ground' : 'Altitude'} testId="obstacle-lift" unit="m" value={o.lift_m} min={-1000} max={10000} step={0.05} digits={2} fallback={0} onChange={(lift_m, g) => put({ lift_m }, g)} />
        </div>
        <div className="flex h-7 items-center gap-1.5 text-xs text-soft">
          <Switch label="Stands on the ground" on={o.on_ground} onChange={(on_ground) => put({ on_ground })} />
          stands on the ground and follows it
        </div>
      </div>
    </div>
  )
}
