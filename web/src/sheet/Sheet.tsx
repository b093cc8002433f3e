import { useUi } from '../state/ui'
import { HandoffSheet } from './HandoffSheet'
import { PlantingSheet } from './PlantingSheet'
import { ShotsSheet } from '../shots/ShotsSheet'
import { SpeciesSheet } from '../nursery/SpeciesSheet'
import { SiteSheet } from '../site/SiteSheet'

/** The selected thing, on the right. */
export function Sheet() {
  const station = useUi((s) => s.station)
  return (
    // Another station starts at its top.
    <aside
      key={station}
      aria-label="Sheet"
      data-testid={`sheet-${station}`}
      className="w-[340px] shrink-0 overflow-x-hidden relative overflow-y-auto border-l border-rule bg-panel"
    >
      {station === 'site' && <SiteSheet />}
      {station === 'nursery' && <SpeciesSheet />}
      {station === 'planting' && <PlantingSheet />}
      {station === 'shots' && <ShotsSheet />}
      {station === 'handoff' && <HandoffSheet />}
    </aside>
  )
}
