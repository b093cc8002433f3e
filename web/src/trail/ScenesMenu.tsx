import { useQuery } from '@tanstack/react-query'
import { ChevronDown, FilePlus2 } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { useState } from 'react'
import { api, wanted, type Schemas } from '../api/client'
import { useScene } from '../state/scene'
import { MENU, MENU_ITEM } from '../ui/menu'

const FRESH: { from: 'kittiwake_head' | 'tarn_moraine' | 'needle_arch' | 'bare'; name: string }[] = [
  { from: 'bare', name: 'Bare ground' },
  { from: 'kittiwake_head', name: 'Kittiwake Head' },
  { from: 'tarn_moraine', name: 'Tarn Moraine' },
  { from: 'needle_arch', name: 'The Needle Arch' },
]

/** Opens another scene, or begins one. */
export function ScenesMenu() {
  const current = useScene((s) => s.scene!.id)
  const { say } = useScene.getState()
  const [open, setOpen] = useState(false)
  const { data: scenes } = useQuery({ queryKey: ['scenes'], enabled: open, staleTime: 0, queryFn: () => wanted(api.GET('/api/scenes')) })
  // Another scene is another address: Back leads to the one before.
  const go = (id: string) => location.assign(`?scene=${id}`)
  const begin = (from: (typeof FRESH)[number]['from']) =>
    void wanted(api.POST('/api/scenes', { body: { from } as Schemas['NewScene'] })).then((s) => go(s.id)).catch((e: Error) => say(e.message))

  return (
    <DropdownMenu.Root open={open} onOpenChange={setOpen}>
      <DropdownMenu.Trigger aria-label="Scenes" className="flex size-6 shrink-0 items-center justify-center rounded text-soft hover:bg-well hover:text-ink">
        <ChevronDown size={14} aria-hidden />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className={`${MENU} max-h-[70vh] w-72 overflow-y-auto`} align="start" sideOffset={8}>
          <DropdownMenu.Label className="px-2 py-1 text-xs text-soft">Begin a scene from</DropdownMenu.Label>
          {FRESH.map((f) => (
            <DropdownMenu.Item key={f.from} className={MENU_ITEM} onSelect={() => begin(f.from)}>
              <FilePlus2 size={13} aria-hidden className="text-soft" />
              {f.name}
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Separator className="my-1 h-px bg-rule" />
          <DropdownMenu.Label className="px-2 py-1 text-xs text-soft">Open</DropdownMenu.Label>
          {scenes?.map((s) => (
            <DropdownMenu.Item key={s.id} className={MENU_ITEM} disabled={s.id === current} onSelect={() => go(s.id)}>
              <span className="truncate">{s.name}</span>
              <span className="ml-auto pl-3 font-mono text-[11px] whitespace-nowrap text-soft">
                {new Date(s.updated_at).toLocaleString(undefined, { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' })}
              </span>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
