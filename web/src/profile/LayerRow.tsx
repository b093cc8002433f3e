import { Eye, EyeOff, Lock, LockOpen } from 'lucide-react'
import { useState, type KeyboardEvent } from 'react'
import type { Layer } from '../api/client'
import { usePlants } from '../state/data'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { Hint } from '../ui/Hint'
import { IconButton } from '../ui/IconButton'
import { TextField } from '../ui/TextField'
import { showCount } from '../ui/parse'
import { LayerMenu } from './LayerMenu'
import { Swatch } from './Swatch'

export interface LayerRowProps {
  layer: Layer
  dropHere: boolean
  onDragStart(): void
  onDrop(): void
  /** Moves it within its band: -1 up, 1 down. */
  onNudge(by: number): void
}

/** Takes a layer along with the chosen one, or lets it go again. */
function takeAlong(id: number) {
  const { layer, together, set } = useUi.getState()
  if (layer === null || layer === id) return set({ layer: id, station: 'planting' })
  set({ together: together.includes(id) ? together.filter((o) => o !== id) : [...together, id], station: 'planting' })
}

/** Goes on to the layer above or below, and chooses it. */
function walk(row: EventTarget & Element, by: number) {
  const rows = [...row.closest('aside')!.querySelectorAll<HTMLElement>('[data-row]')]
  const next = rows[rows.indexOf(row as HTMLElement) + by]
  if (!next) return
  next.focus()
  useUi.getState().set({ layer: Number(next.dataset.row), together: [] })
}

/** Chooses a layer and leads the keyboard to its sheet. */
function openSheet(id: number) {
  const { set, unfold } = useUi.getState()
  set({ layer: id, together: [], station: 'planting' })
  unfold('sheet')
  requestAnimationFrame(() => document.querySelector<HTMLElement>('[data-testid=sentence] button')?.focus())
}

/** A layer: key, name, how many stand, eye, lock. */
export function LayerRow({ layer, dropHere, onDragStart, onDrop, onNudge }: LayerRowProps) {
  const chosen = useUi((s) => s.layer === layer.id)
  const along = useUi((s) => s.together.includes(layer.id) && s.layer !== layer.id)
  const alone = useUi((s) => s.alone)
  const set = useUi((s) => s.set)
  const { editLayer, run } = useScene.getState()
  const { data, error, isFetching } = usePlants(layer)
  const [naming, setNaming] = useState(false)
  const tally = data?.tally
  const capped = tally?.refused.some((r) => r.reason.rule === 'cap' && r.count > 0)

  const keys = (e: KeyboardEvent) => {
    if (e.key === 'F2') setNaming(true)
    else if (e.key === 'Enter') openSheet(layer.id)
    else if (!e.altKey && e.key === 'ArrowUp') walk(e.currentTarget, -1)
    else if (!e.altKey && e.key === 'ArrowDown') walk(e.currentTarget, 1)
    else if (e.key === 'Delete') run({ do: 'remove_layer', id: layer.id })
    else if (e.altKey && e.key === 'ArrowUp') onNudge(-1)
    else if (e.altKey && e.key === 'ArrowDown') onNudge(1)
    else return
    e.preventDefault()
  }
  return (
    <li
      data-testid={`layer-${layer.id}`}
      draggable={!naming && !layer.locked}
      onDragStart={onDragStart}
      onDragOver={(e) => dropHere && e.preventDefault()}
      onDrop={onDrop}
      className={`group mx-1 flex h-8 items-center gap-0.5 rounded-md border-l-2 pr-0.5 pl-1.5 ${
        chosen ? 'border-thrift bg-thrift-wash' : along ? 'border-thrift bg-well' : 'border-transparent hover:bg-well'
      } ${layer.visible && (alone === null || alone === layer.id) ? '' : 'opacity-60'}`}
    >
      {naming ? (
        <>
          <Swatch layerId={layer.id} />
          <TextField
            label="Name of the layer"
            autoFocus
            className="h-6 flex-1"
            value={layer.name}
            onCancel={() => setNaming(false)}
            onCommit={(value) => {
              editLayer(layer.id, { set: 'name', value })
              setNaming(false)
            }}
          />
        </>
      ) : (
        <button
          type="button"
          aria-pressed={chosen}
          data-row={layer.id}
          aria-keyshortcuts="ArrowUp ArrowDown Enter F2 Delete Alt+ArrowUp Alt+ArrowDown"
          className="flex h-full min-w-0 flex-1 items-center gap-1.5 text-left"
          title="Ctrl-click edits several layers together"
          onClick={(e) => (e.ctrlKey || e.metaKey || e.shiftKey ? takeAlong(layer.id) : set({ layer: layer.id, together: [], station: 'planting' }))}
          onDoubleClick={() => setNaming(true)}
          onKeyDown={keys}
        >
          <Swatch layerId={layer.id} />
          <span className={`truncate ${chosen ? 'font-semibold' : ''}`}>{layer.name}</span>
        </button>
      )}
      <Hint text={error ? `Could not grow: ${error.message}` : tally ? `${isFetching ? 'Growing; of before: ' : ''}${showCount(tally.placed)} stand, ${showCount(tally.asked)} asked for${capped ? `; the ceiling ${tally.cap < layer.cap ? 'of the scene' : 'of the layer'} is reached` : ''}` : 'Growing'}>
        <span className={`font-mono text-[11px] transition-opacity ${isFetching ? 'opacity-45' : ''} ${capped ? 'font-medium text-iron' : 'text-soft'}`} data-growing={isFetching} data-testid={`count-${layer.id}`} data-placed={tally?.placed}>
          {error ? <span className="text-iron">not grown</span> : tally ? showCount(tally.placed) : '…'}
          {capped && (tally!.placed === 0 ? ' cut' : '')}
        </span>
      </Hint>
      <IconButton
        icon={layer.visible ? Eye : EyeOff}
        label={layer.visible ? `Hide ${layer.name}` : `Show ${layer.name}`}
        className="size-5!"
        onClick={() => editLayer(layer.id, { set: 'visible', value: !layer.visible })}
      />
      <IconButton
        icon={layer.locked ? Lock : LockOpen}
        label={layer.locked ? `Unlock ${layer.name}` : `Lock ${layer.name}`}
        className={`size-5! ${layer.locked ? 'text-lichen!' : 'opacity-0 group-focus-within:opacity-100 group-hover:opacity-100'}`}
        onClick={() => editLayer(layer.id, { set: 'locked', value: !layer.locked })}
      />
      <LayerMenu layer={layer} onRename={() => setNaming(true)} onNudge={onNudge} />
    </li>
  )
}
