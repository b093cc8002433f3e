import { useGround } from '../state/data'
import { useScene } from '../state/scene'
import { Choice } from '../ui/Choice'
import { Part } from '../ui/Part'
import { showCount, showNumber } from '../ui/parse'
import { HeightmapImport } from './HeightmapImport'
import { HeightmapSettings } from './HeightmapSettings'
import { NoiseSettings } from './NoiseSettings'
import { DEFAULT_NOISE } from './noise'
import { EarthPart } from './EarthPart'
import { ReadingPart } from './ReadingPart'
import { SculptPart } from './SculptPart'
import { ObstaclesPart } from './obstacles/ObstaclesPart'
import { GroundsPart } from './grounds/GroundsPart'
import { OutlinesPart } from './outlines/OutlinesPart'
import { WaterPart } from './water/WaterPart'
import { ZonesPart } from './zones/ZonesPart'
import { useState } from 'react'

/** The ground: where it comes from, how large it is, where the water stands. */
export function SiteSheet() {
  const ground = useScene((s) => s.scene!.document.ground)
  const { run } = useScene.getState()
  const { data } = useGround()
  const [bringing, setBringing] = useState(false)
  const noise = ground.source.kind === 'noise'

  return (
    <>
      <header className="border-b border-rule px-4 py-3">
        <h2 className="text-sm font-semibold">Ground</h2>
        {data && (
          <p className="mt-1 text-soft">
            {showNumber(data.size_m[0], 0)} × {showNumber(data.size_m[1], 0)} m, {showCount(data.size_m[0] * data.size_m[1])} m²
            seen from above, from {showNumber(data.low_m, 1)} to {showNumber(data.high_m, 1)} m high.
            {data.step > 1 && ` The view draws one height in ${data.step} each way; plants and stills use all of them.`}
          </p>
        )}
      </header>
      <Part title="Where it comes from">
        <Choice
          label="Source of the ground"
          value={noise && !bringing ? 'noise' : 'heightmap'}
          options={[
            { value: 'noise', name: 'From noise' },
            { value: 'heightmap', name: 'From a file' },
          ]}
          onChange={(kind) => {
            setBringing(kind === 'heightmap' && noise)
            if (kind === 'noise' && !noise) {
              run({ do: 'edit_ground', edit: { set: 'source', value: { kind: 'noise', ...DEFAULT_NOISE } } })
            }
          }}
        />
        <div className="mt-3">
          {noise && !bringing && <NoiseSettings />}
          {!noise && <HeightmapSettings />}
          {(!noise || bringing) && <HeightmapImport onDone={() => setBringing(false)} />}
        </div>
      </Part>
      <SculptPart />
      <WaterPart />
      <EarthPart />
      <GroundsPart />
      <OutlinesPart />
      <ZonesPart />
      <ObstaclesPart />
      <ReadingPart />
    </>
  )
}
