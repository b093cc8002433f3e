import { Camera, ChevronDown } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { useView } from '../state/view'
import { lensOf } from '../shots/through'
import { MENU, MENU_ITEM } from '../ui/menu'

/** Goes to a saved camera. */
export function ShotMenu() {
  const shots = useScene((s) => s.scene?.document.shots) ?? []
  const chosen = useUi((s) => s.shot)
  const set = useUi((s) => s.set)
  const stage = useView((s) => s.stage)
  const current = shots.find((s) => s.id === chosen) ?? shots[0]

  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <button
          type="button"
          className="flex h-7 max-w-52 items-center gap-1.5 rounded-md border border-rule bg-panel/92 px-2.5 text-ink shadow-sm hover:bg-well"
        >
          <Camera size={13} className="shrink-0 text-soft" aria-hidden />
          <span className="truncate">{current?.name ?? 'No shot'}</span>
          <ChevronDown size={12} className="shrink-0 text-soft" aria-hidden />
        </button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className={MENU} sideOffset={4} align="start">
          {shots.map((s) => (
            <DropdownMenu.Item
              key={s.id}
              className={MENU_ITEM}
              onSelect={() => {
                set({ shot: s.id, mode: 'perspective' })
                stage?.look(s, lensOf(s))
              }}
            >
              {s.name}
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Item
            className={MENU_ITEM}
            onSelect={() => {
              set({ mode: 'perspective' })
              stage?.frameGround()
            }}
          >
            The whole ground
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
