import { Columns2 } from 'lucide-react'
import type { Species } from '../api/client'
import { IconButton } from '../ui/IconButton'
import { showCount } from '../ui/parse'
import { Portrait } from './Portrait'
import { sayLength } from './kinds'

export interface SpeciesCardProps {
  species: Species
  chosen: boolean
  /** How many layers grow it. */
  layers: number
  onChoose(): void
  onBeside(): void
}

/** One species on the shelf. */
export function SpeciesCard({ species, chosen, layers, onChoose, onBeside }: SpeciesCardProps) {
  return (
    <li
      data-testid={`species-${species.id}`}
      className={`group relative overflow-hidden rounded-md border bg-panel ${chosen ? 'border-thrift ring-2 ring-thrift/25' : 'border-rule hover:border-soft'}`}
    >
      <button type="button" aria-pressed={chosen} onClick={onChoose} className="block w-full text-left">
        <Portrait species={species} />
        <span className="block truncate px-2 pt-1.5 font-medium">{species.name}</span>
        <span className="flex justify-between px-2 pb-1.5 text-xs text-soft">
          <span>{sayLength(species.height_m)}</span>
          <span>{showCount(species.triangles[0])} tri.</span>
        </span>
      </button>
      {(species.own || layers > 0) && (
        <span className="absolute top-1.5 left-1.5 flex gap-1 text-[11px]">
          {layers > 0 && <span className="rounded bg-panel/85 px-1">{layers === 1 ? '1 layer' : `${layers} layers`}</span>}
          {species.own && <span className="rounded bg-panel/85 px-1 text-thrift">{species.ready ? 'edited' : 'own'}</span>}
        </span>
      )}
      <span className="absolute top-1 right-1 rounded bg-panel/85 opacity-0 group-focus-within:opacity-100 group-hover:opacity-100">
        <IconButton icon={Columns2} label={`Set ${species.name} beside the chosen one`} onClick={onBeside} />
      </span>
    </li>
  )
}
