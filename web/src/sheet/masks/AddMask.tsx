import { ClipboardPaste, Copy, Plus } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { useRef } from 'react'
import type { Layer } from '../../api/client'
import { freshId, useScene } from '../../state/scene'
import { useUi } from '../../state/ui'
import { Button } from '../../ui/Button'
import { MENU, MENU_ITEM } from '../../ui/menu'
import { useHistogram } from '../histograms'
import { addPainted } from './painting'
import { addPicture, uploadPicture } from './pictures'
import { QUANTITIES, freshMask, type Quantity } from './quantities'

/** Kinds that are offered beside the menu, at one click. */
const LIKELY: Quantity[] = ['slope', 'altitude', 'noise', 'painted', 'distance', 'picture', 'zone', 'in_view']

/** Adds a mask of any kind; masks can be taken along to another layer. */
export function AddMask({ layer }: { layer: Layer }) {
  const { editLayer } = useScene.getState()
  const zones = useScene((s) => s.scene!.document.zones) ?? []
  const altitude = useHistogram(layer, 'altitude')
  const copied = useUi((s) => s.copiedMasks)
  const set = useUi((s) => s.set)
  const shots = useScene((s) => s.scene!.document.shots)
  const looking = useUi((s) => s.shot)
  const file = useRef<HTMLInputElement>(null)
  const wanted = useRef<'picture' | 'colour'>('picture')
  const missing = (quantity: string) =>
    quantity === 'zone' && zones.length === 0 ? 'Name a part of the ground first: Site, Zones' : quantity === 'in_view' && shots.length === 0 ? 'Save a shot first: Shots' : null
  const add = (quantity: Quantity) => {
    const id = freshId(layer.masks)
    // All of a zone's value and no band of it: as much as the point belongs to it.
    const zone = { id, quantity, zone: zones[0]?.id, enabled: true, response: { start: 0, full_from: 1, full_to: 1, end: 1, inverted: false } }
    if (quantity === 'painted') return addPainted(layer)
    if (quantity === 'picture' || quantity === 'colour') {
      wanted.current = quantity
      if (!addPicture(layer, quantity)) file.current!.click()
      return
    }
    const mask = quantity === 'zone' ? zone : {
      ...freshMask(id, quantity, altitude),
      // The shot that is looked through is the likeliest.
      ...(quantity === 'in_view' && { shot: (shots.find((s) => s.id === looking) ?? shots[0]).id }),
    }
    editLayer(layer.id, { set: 'masks', value: [...layer.masks, mask] })
  }
  const paste = () => {
    const from = freshId(layer.masks)
    editLayer(layer.id, { set: 'masks', value: [...layer.masks, ...copied.map((m, i) => ({ ...m, id: from + i }))] })
  }
  const likely = LIKELY.filter((quantity) => missing(quantity) === null)
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      <input
        ref={file} type="file" accept="image/png,image/jpeg" className="hidden" data-testid="picture-file"
        onChange={(e) => {
          const chosen = e.currentTarget.files?.[0]
          e.currentTarget.value = ''
          if (chosen) void uploadPicture(layer, wanted.current, chosen)
        }}
      />
      <DropdownMenu.Root>
        <DropdownMenu.Trigger asChild disabled={layer.locked}>
          <Button data-testid="add-mask">
            <Plus size={13} aria-hidden />
            Add mask
          </Button>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className={`${MENU} max-h-(--radix-dropdown-menu-content-available-height) overflow-y-auto`} align="start">
            {Object.entries(QUANTITIES).map(([id, { name, what }]) => (
              <DropdownMenu.Item key={id} className={MENU_ITEM} data-testid={`add-${id}-mask`} disabled={missing(id) !== null} onSelect={() => add(id as Quantity)}>
                <span className="w-28 font-medium">{name}</span>
                <span className="text-xs text-soft">{missing(id) ?? what}</span>
              </DropdownMenu.Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {layer.masks.length > 0 && (
        <Button look="quiet" onClick={() => set({ copiedMasks: layer.masks })} title="Take copies of all masks along, for another layer">
          <Copy size={13} aria-hidden />
          Copy all
        </Button>
      )}
      {copied.length > 0 && (
        <Button look="quiet" disabled={layer.locked} onClick={paste} title="Adds copies; they go their own way from here">
          <ClipboardPaste size={13} aria-hidden />
          Paste {copied.length}
        </Button>
      )}
      <ul aria-label="Masks that are wanted most" className="flex w-full flex-wrap gap-1">
        {likely.map((quantity) => (
          <li key={quantity}>
            <button
              type="button" data-testid={`quick-${quantity}-mask`} disabled={layer.locked} title={`Adds a mask: ${QUANTITIES[quantity].what.toLowerCase()}`} onClick={() => add(quantity)}
              className="h-6 rounded-full border border-rule px-2 text-xs text-soft hover:bg-well hover:text-ink disabled:opacity-50"
            >
              {QUANTITIES[quantity].name}
            </button>
          </li>
        ))}
      </ul>
    </div>
  )
}
