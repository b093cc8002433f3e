import { useScene } from '../state/scene'
import { NumberField } from '../ui/NumberField'
import { showNumber } from '../ui/parse'

/** The true size of a ground from a file. */
export function HeightmapSettings() {
  const source = useScene((s) => s.scene!.document.ground.source)
  const { run } = useScene.getState()
  if (source.kind !== 'heightmap') return null
  const change = (part: Partial<typeof source>, gesture?: string) =>
    run({ do: 'edit_ground', edit: { set: 'source', value: { ...source, ...part } } }, gesture, gesture && 'heightmap')

  return (
    <div className="mb-3">
      <p className="mb-2 truncate font-medium" title={source.name}>
        {source.name}
      </p>
      {source.middle_m && (
        <p className="mb-2 text-xs text-soft">
          Its middle lies at E {showNumber(source.middle_m[0], 1)}, N {showNumber(source.middle_m[1], 1)} m on its own map; outlines in GeoJSON are read
          and written on that map.
        </p>
      )}
      <div className="grid grid-cols-2 gap-2">
        <NumberField label="West to east" testId="map-width" unit="m" value={source.width_m} min={1} max={60000} step={5} digits={1} onChange={(width_m, g) => change({ width_m }, g)} />
        <NumberField label="North to south" testId="map-depth" unit="m" value={source.depth_m} min={1} max={60000} step={5} digits={1} onChange={(depth_m, g) => change({ depth_m }, g)} />
        <NumberField label="Lowest" testId="map-low" unit="m" value={source.low_m} min={-12000} max={12000} step={0.5} digits={1} onChange={(v, g) => change({ low_m: v, high_m: Math.max(v, source.high_m) }, g)} />
        <NumberField label="Highest" testId="map-high" unit="m" value={source.high_m} min={-12000} max={12000} step={0.5} digits={1} onChange={(v, g) => change({ high_m: v, low_m: Math.min(v, source.low_m) }, g)} />
      </div>
    </div>
  )
}
