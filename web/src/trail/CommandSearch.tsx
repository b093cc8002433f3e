import { Dialog } from 'radix-ui'
import { useState } from 'react'
import { useUi } from '../state/ui'
import { useCommands } from './useCommands'

/** Finds any command by plain words. */
export function CommandSearch() {
  const { searching, set } = useUi()
  const [text, setText] = useState('')
  const [at, setAt] = useState(0)
  const commands = useCommands()
  const words = text.toLowerCase().split(/\s+/).filter(Boolean)
  const found = commands.filter((c) => words.every((w) => `${c.name} ${c.also ?? ''}`.toLowerCase().includes(w)))
  const chosen = Math.min(at, found.length - 1)

  const close = () => {
    set({ searching: false })
    setText('')
    setAt(0)
  }
  const go = (i: number) => {
    const command = found[i]
    close()
    command?.run()
  }
  return (
    <Dialog.Root open={searching} onOpenChange={(open) => (open ? set({ searching: true }) : close())}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-24 left-1/2 z-50 w-[30rem] -translate-x-1/2 overflow-hidden rounded-md border border-rule bg-panel shadow-xl"
        >
          <Dialog.Title className="sr-only">Find a command</Dialog.Title>
          <input
            role="combobox"
            aria-expanded
            aria-controls="found-commands"
            aria-activedescendant={found.length ? `command-${chosen}` : undefined}
            aria-label="Find a command"
            placeholder="What would you like to do?"
            className="w-full border-b border-rule bg-transparent px-4 py-3 text-sm outline-none placeholder:text-soft"
            value={text}
            onChange={(e) => {
              setText(e.currentTarget.value)
              setAt(0)
            }}
            onKeyDown={(e) => {
              if (e.key === 'ArrowDown') setAt(Math.min(chosen + 1, found.length - 1))
              else if (e.key === 'ArrowUp') setAt(Math.max(chosen - 1, 0))
              else if (e.key === 'Enter') go(chosen)
              else return
              e.preventDefault()
            }}
          />
          <ul id="found-commands" role="listbox" aria-label="Commands" className="max-h-80 overflow-y-auto p-1">
            {found.map((c, i) => (
              <li
                key={c.name}
                id={`command-${i}`}
                role="option"
                aria-selected={i === chosen}
                className={`flex cursor-pointer justify-between rounded px-3 py-1.5 ${i === chosen ? 'bg-well' : ''}`}
                onPointerMove={() => setAt(i)}
                onClick={() => go(i)}
              >
                {c.name}
                {c.keys && <kbd className="font-mono text-[11px] text-soft">{c.keys}</kbd>}
              </li>
            ))}
            {found.length === 0 && <li className="px-3 py-2 text-soft">No command has these words. Try fewer.</li>}
          </ul>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
