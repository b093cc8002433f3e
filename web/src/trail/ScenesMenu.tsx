import { useQuery } from '@tanstack/react-query'
import { ChevronDown, Copy, FilePlus2, RotateCcw, Trash2, Upload } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { useRef, useState } from 'react'
import { api, wanted, type Schemas } from '../api/client'
import { useScene } from '../state/scene'
import { MENU, MENU_ITEM } from '../ui/menu'

const FRESH: { from: 'kittiwake_head' | 'tarn_moraine' | 'needle_arch' | 'bare'; name: string }[] = [
  { from: 'bare', name: 'Bare ground' },
  { from: 'kittiwake_head', name: 'Kittiwake Head' },
  { from: 'tarn_moraine', name: 'Tarn Moraine' },
  { from: 'needle_arch', name: 'The Needle Arch' },
]

type SceneLine = Schemas['SceneLine']
const when = (s: SceneLine) => new Date(s.updated_at).toLocaleString(undefined, { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' })
const LABEL = 'px-2 py-1 text-xs text-soft'

/** Opens another scene, begins one, copies this one, or deletes it. */
export function ScenesMenu() {
  const current = useScene((s) => s.scene!.id)
  const { say } = useScene.getState()
  const [open, setOpen] = useState(false)
  const file = useRef<HTMLInputElement>(null)
  const list = { enabled: open, staleTime: 0 }
  const { data: scenes } = useQuery({ queryKey: ['scenes'], ...list, queryFn: () => wanted(api.GET('/api/scenes')) })
  const { data: deleted } = useQuery({ queryKey: ['deleted'], ...list, queryFn: () => wanted(api.GET('/api/deleted-scenes')) })
  // Another scene is another address: Back leads to the one before.
  const go = (id: string) => location.assign(`?scene=${id}`)
  const failed = (e: Error) => say(e.message)
  const begin = (body: Schemas['NewScene']) => void wanted(api.POST('/api/scenes', { body })).then((s) => go(s.id)).catch(failed)
  const remove = () =>
    void wanted(api.DELETE('/api/scenes/{scene}', { params: { path: { scene: current } } }))
      .then(() => location.assign(location.pathname))
      .catch(failed)
  const restore = (id: string) => void wanted(api.POST('/api/scenes/{scene}/restore', { params: { path: { scene: id } } })).then(() => go(id)).catch(failed)
  const bring = (f: File) =>
    void f
      .text()
      .then((text) => begin({ from: 'document', document: JSON.parse(text) as Schemas['Document'] }))
      .catch(() => say(`“${f.name}” is no scene file`))

  return (
    <DropdownMenu.Root open={open} onOpenChange={setOpen}>
      <DropdownMenu.Trigger aria-label="Scenes" className="flex size-6 shrink-0 items-center justify-center rounded text-soft hover:bg-well hover:text-ink">
        <ChevronDown size={14} aria-hidden />
      </DropdownMenu.Trigger>
      <input ref={file} type="file" accept=".json,application/json" aria-label="Scene file" className="hidden" onChange={(e) => e.currentTarget.files?.[0] && bring(e.currentTarget.files[0])} />
      <DropdownMenu.Portal>
        <DropdownMenu.Content className={`${MENU} max-h-[70vh] w-72 overflow-y-auto`} align="start" sideOffset={8}>
          <DropdownMenu.Label className={LABEL}>Begin a scene from</DropdownMenu.Label>
          {FRESH.map((f) => (
            <DropdownMenu.Item key={f.from} className={MENU_ITEM} onSelect={() => begin({ from: f.from } as Schemas['NewScene'])}>
              <FilePlus2 size={13} aria-hidden className="text-soft" />
              {f.name}
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Item className={MENU_ITEM} onSelect={() => file.current?.click()}>
            <Upload size={13} aria-hidden className="text-soft" />A scene file…
          </DropdownMenu.Item>
          <DropdownMenu.Separator className="my-1 h-px bg-rule" />
          <DropdownMenu.Label className={LABEL}>This scene</DropdownMenu.Label>
          <DropdownMenu.Item className={MENU_ITEM} onSelect={() => begin({ from: 'scene', scene: current })}>
            <Copy size={13} aria-hidden className="text-soft" />
            Open a copy
          </DropdownMenu.Item>
          <DropdownMenu.Item className={MENU_ITEM} onSelect={remove}>
            <Trash2 size={13} aria-hidden className="text-soft" />
            Delete
            <span className="ml-auto pl-3 text-[11px] whitespace-nowrap text-soft">kept for 30 days</span>
          </DropdownMenu.Item>
          <DropdownMenu.Separator className="my-1 h-px bg-rule" />
          <DropdownMenu.Label className={LABEL}>Open</DropdownMenu.Label>
          {scenes?.map((s) => (
            <DropdownMenu.Item key={s.id} className={MENU_ITEM} disabled={s.id === current} onSelect={() => go(s.id)}>
              <span className="truncate">{s.name}</span>
              <span className="ml-auto pl-3 font-mono text-[11px] whitespace-nowrap text-soft">{when(s)}</span>
            </DropdownMenu.Item>
          ))}
          {deleted && deleted.length > 0 && <DropdownMenu.Label className={LABEL}>Deleted; open to restore</DropdownMenu.Label>}
          {deleted?.map((s) => (
            <DropdownMenu.Item key={s.id} className={MENU_ITEM} onSelect={() => restore(s.id)}>
              <RotateCcw size={13} aria-hidden className="shrink-0 text-soft" />
              <span className="truncate text-soft">{s.name}</span>
              <span className="ml-auto pl-3 font-mono text-[11px] whitespace-nowrap text-soft">{when(s)}</span>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
