import type { Layer } from '../api/client'
import { AmountFields } from './AmountFields'
import { GrowsOn } from './GrowsOn'
import { MaskCard } from './masks/MaskCard'
import { PatternChoice } from './PatternChoice'
import { MixFields } from './mix/MixFields'
import { SinkField, SizeField, TiltField, TurnField, UprightField } from './stanceFields'
import { LeanFields, LiftField, TumbleField } from './moreStance'
import { ZoneCard } from './masks/ZoneCard'

/** The control of one setting, by the name it has in the sentence. */
export function SettingEditor({ layer, setting }: { layer: Layer; setting: string }) {
  if (setting.startsWith('mask:')) {
    const mask = layer.masks.find((m) => m.id === Number(setting.slice(5)))
    if (!mask) return null
    return mask.quantity === 'zone' ? <ZoneCard layer={layer} mask={mask} /> : <MaskCard layer={layer} mask={mask} />
  }
  switch (setting) {
    case 'species':
      return <MixFields layer={layer} />
    case 'amount':
      return <AmountFields layer={layer} />
    case 'grounds':
      return <GrowsOn layer={layer} />
    case 'pattern':
      return <PatternChoice layer={layer} />
    case 'size':
      return <SizeField layer={layer} />
    case 'turn':
      return <TurnField layer={layer} />
    case 'tilt':
      return <TiltField layer={layer} />
    case 'upright':
      return <UprightField layer={layer} />
    case 'sink':
      return <SinkField layer={layer} />
    case 'tumble':
      return <TumbleField layer={layer} />
    case 'lean':
      return <LeanFields layer={layer} />
    case 'lift':
      return <LiftField layer={layer} />
    default:
      return null
  }
}
