import { Download, Trash2 } from 'lucide-react'
import { api, wanted, type Species } from '../../api/client'
import { useScene } from '../../state/scene'
import { IconButton } from '../../ui/IconButton'
import { Portrait } from '../Portrait'
import { DropPart } from './DropPart'
import { saveFile } from './files'
import { readCommunitiesAgain, type Community } from './useCommunities'
import { growsIt, leadOf } from '../../state/mix'

export interface CommunityCardProps {
  view: Community
  species: Species[]
  open: boolean
  onOpen(): void
}

/** One community: what grows in it, and, once opened, how heavy it will be and where to drop it. */
export function CommunityCard({ view, species, open, onOpen }: CommunityCardProps) {
  const { say } = useScene.getState()
  const { community } = view
  const layers = community.layers ?? []
  const shown = layers.flatMap((l) => species.filter((s) => growsIt(l, s.id))).slice(0, 5)
  const loose = community.species?.filter((s) => !layers.some((l) => growsIt(l, s.id))) ?? []
  const remove = () =>
    void wanted(api.DELETE('/api/communities/{community}', { params: { path: { community: view.id } } }))
      .then(readCommunitiesAgain)
      .catch((e: Error) => say(e.message))
  return (
    <li data-testid={`community-${view.id}`} className={`overflow-hidden rounded-md border bg-panel ${open ? 'border-thrift ring-2 ring-thrift/25' : 'border-rule'}`}>
      <button type="button" aria-expanded={open} onClick={onOpen} className="block w-full text-left hover:bg-well/40">
        {shown.length > 0 && (
          <span className="grid grid-cols-5">
            {shown.map((s) => (
              <Portrait key={s.id} species={s} />
            ))}
          </span>
        )}
        <span className="block px-3 pt-2 font-semibold">{community.name}</span>
        <span className="block px-3 text-soft">{community.about}</span>
        <span className="block px-3 pt-1 pb-2 text-xs text-soft">
          {layers.map((l) => species.find((s) => s.id === leadOf(l))?.plural ?? l.name).join(', ')}
          {loose.length > 0 && `${layers.length > 0 ? '; ' : ''}species: ${loose.map((s) => s.name).join(', ')}`}
        </span>
      </button>
      {open && (
        <div className="border-t border-rule px-3 py-2.5">
          <DropPart view={view} />
          <div className="mt-2 flex justify-end gap-1">
            <IconButton icon={Download} label="Keep as a file" onClick={() => void saveFile(view).catch((e: Error) => say(e.message))} />
            {!view.ready && <IconButton icon={Trash2} label="Delete this community" onClick={remove} />}
          </div>
        </div>
      )}
    </li>
  )
}
