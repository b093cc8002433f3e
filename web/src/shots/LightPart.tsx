import type { Shot } from '../api/client'
import { useScene } from '../state/scene'
import { NumberField } from '../ui/NumberField'
import { Part } from '../ui/Part'

/** The sun, how veiled the sky is, and its clouds. The view follows. */
export function LightPart({ shot }: { shot: Shot }) {
  const { editShot } = useScene.getState()
  const sun = (part: { azimuth_deg?: number; elevation_deg?: number }, gesture?: string) =>
    editShot(
      shot.id,
      { set: 'sun', azimuth_deg: shot.sun_azimuth_deg, elevation_deg: shot.sun_elevation_deg, ...part },
      gesture,
    )
  return (
    <Part title="Light">
      <div className="grid grid-cols-2 gap-2">
        <NumberField
          label="Sun from"
          testId="sun-azimuth"
          unit="°"
          value={shot.sun_azimuth_deg}
          min={0}
          max={360}
          step={1}
          digits={0}
          hint="Clockwise from north: 90 is east, 180 south."
          onChange={(azimuth_deg, g) => sun({ azimuth_deg }, g)}
        />
        <NumberField
          label="Sun height"
          testId="sun-height"
          unit="°"
          value={shot.sun_elevation_deg}
          min={0}
          max={90}
          step={0.5}
          digits={1}
          hint="Above the horizon."
          onChange={(elevation_deg, g) => sun({ elevation_deg }, g)}
        />
        <NumberField
          label="Overcast"
          testId="overcast"
          unit="%"
          value={Math.round(shot.overcast * 1000) / 10}
          min={0}
          max={100}
          step={1}
          digits={0}
          hint="0 is a clear sky, 100 a grey one without a sun."
          onChange={(v, g) => editShot(shot.id, { set: 'overcast', value: v / 100 }, g)}
        />
        <NumberField
          label="Clouds"
          testId="clouds"
          unit="%"
          value={Math.round((shot.clouds ?? 0) * 1000) / 10}
          min={0}
          max={100}
          step={1}
          digits={0}
          hint="Share of the sky under soft clouds. They shade the land, and drift with the wind."
          onChange={(v, g) => editShot(shot.id, { set: 'clouds', value: v / 100 }, g)}
        />
      </div>
    </Part>
  )
}
