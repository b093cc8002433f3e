import { PanelRightClose, PanelRightOpen } from 'lucide-react'
import { IconButton } from '../ui/IconButton'
import { useUi } from '../state/ui'
import { MotionSheet } from '../motion/MotionSheet'
import { HandoffSheet } from './HandoffSheet'
import { PlantingSheet } from './PlantingSheet'
import { ShotsSheet } from '../shots/ShotsSheet'
import { SpeciesSheet } from '../nursery/SpeciesSheet'
import { SiteSheet } from '../site/SiteSheet'

/** The selected thing, on the right. */
export function Sheet() {
  const { station, folded, fold, unfold } = useUi()
  if (folded.sheet) {
    return (
      <aside aria-label="Sheet, folded" data-testid="sheet-rail" className="flex w-10 shrink-0 flex-col items-center border-l border-rule bg-panel py-2.5">
        <IconButton icon={PanelRightOpen} label="Open the sheet" onClick={() => unfold('sheet')} />
      </aside>
    )
  }
  return (
    // Another station starts at its top.
    <aside
      key={station}
      aria-label="Sheet"
      data-testid={`sheet-${station}`}
      className="w-[340px] shrink-0 overflow-x-hidden relative overflow-y-auto border-l border-rule bg-panel"
    >
      <IconButton icon={PanelRightClose} label="Fold the sheet" className="absolute! top-2.5 right-2 z-10" onClick={() => fold('sheet')} />
      {station === 'site' && <SiteSheet />}
      {station === 'nursery' && <SpeciesSheet />}
      {station === 'planting' && <PlantingSheet />}
      {station === 'motion' && <MotionSheet />}
      {station === 'shots' && <ShotsSheet />}
      {station === 'handoff' && <HandoffSheet />}
    </aside>
  )
}
