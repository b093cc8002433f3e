import type { Layer } from '../api/client'
import { Part } from '../ui/Part'
import { showNumber } from '../ui/parse'
import { BeyondField, LeanFields, LiftField, ShiftField, SizesField, StretchFields, TumbleField } from './moreStance'
import { SinkField, SizeField, TiltField, TurnField, UprightField } from './stanceFields'

/** How it stands: size, turn, tilt, sink. */
export function HowItStands({ layer }: { layer: Layer }) {
  const { size, tilt_deg } = layer.stance
  return (
    <Part
      title="How it stands"
      settings={['size', 'turn', 'tilt', 'upright', 'sink', 'tumble', 'lean', 'lift']}
      summary={`size ${showNumber(size.min)}–${showNumber(size.max)}×, tilt ${showNumber(tilt_deg)}°`}
    >
      <div className="flex flex-col gap-2.5">
        <div data-setting="size">
          <SizeField layer={layer} />
        </div>
        <SizesField layer={layer} />
        <StretchFields layer={layer} />
        <div data-setting="turn">
          <TurnField layer={layer} />
        </div>
        <div className="grid grid-cols-3 gap-2">
          <div data-setting="tilt">
            <TiltField layer={layer} />
          </div>
          <div data-setting="upright">
            <UprightField layer={layer} />
          </div>
          <div data-setting="sink">
            <SinkField layer={layer} />
          </div>
        </div>
        <div data-setting="lean">
          <LeanFields layer={layer} />
        </div>
        <div className="grid grid-cols-2 gap-2">
          <div data-setting="tumble">
            <TumbleField layer={layer} />
          </div>
          <ShiftField layer={layer} />
        </div>
        <div data-setting="lift">
          <LiftField layer={layer} />
        </div>
        <BeyondField layer={layer} />
      </div>
    </Part>
  )
}
