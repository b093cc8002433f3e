import { useState } from 'react'
import { useSpecies } from '../../state/data'
import { CommunityCard } from './CommunityCard'
import { TakeLayers } from './TakeLayers'
import { useCommunities } from './useCommunities'

/** Sets of layers that belong together, to be dropped whole. */
export function Communities() {
  const { data } = useCommunities()
  const { data: species } = useSpecies()
  const [open, setOpen] = useState<string | null>(null)
  return (
    <div className="min-h-0 flex-1 overflow-y-auto p-4">
      <p className="mb-3 max-w-160 text-soft">
        A community is a set of layers that belong together. Dropped on a ground it becomes ordinary layers, to be edited like all
        others.
      </p>
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(270px,1fr))] items-start gap-3">
        {data?.map((c) => (
          <CommunityCard key={c.id} view={c} species={species ?? []} open={open === c.id} onOpen={() => setOpen(open === c.id ? null : c.id)} />
        ))}
        <TakeLayers />
      </ul>
    </div>
  )
}
