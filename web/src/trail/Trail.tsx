import { Keyboard, Moon, Redo2, Search, Sun, Undo2 } from 'lucide-react'
import { useScene } from '../state/scene'
import { applyTheme, useUi } from '../state/ui'
import { IconButton } from '../ui/IconButton'
import { TextField } from '../ui/TextField'
import { Budget } from './Budget'
import { Saved } from './Saved'
import { ScenesMenu } from './ScenesMenu'
import { Waypoints } from './Waypoints'

/** The way through the work: stations as waypoints, and what concerns the whole scene. */
export function Trail() {
  const scene = useScene((s) => s.scene)!
  const { run, undo, redo } = useScene.getState()
  const { theme, set } = useUi()
  const other = theme === 'chalk' ? 'dusk' : 'chalk'

  return (
    <header className="flex h-12 shrink-0 items-center gap-3 border-b border-rule bg-panel px-3 max-xl:gap-2">
      <div className="flex w-[244px] shrink-0 max-xl:w-[210px] items-center gap-2">
        <img src="/mark.svg" alt="" className="size-5" />
        <h1 className="text-sm font-bold">Rookery</h1>
        <TextField
          label="Name of the scene"
          className="h-7 flex-1 text-soft"
          value={scene.document.name}
          onCommit={(name) => run({ do: 'rename_scene', name })}
        />
        <ScenesMenu />
      </div>
      <Waypoints />
      <div className="ml-auto flex items-center gap-1.5">
        <IconButton icon={Undo2} label={`Undo (Ctrl+Z), ${scene.undo_steps} steps`} disabled={scene.undo_steps === 0} onClick={undo} />
        <IconButton icon={Redo2} label={`Redo (Ctrl+Shift+Z), ${scene.redo_steps} steps`} disabled={scene.redo_steps === 0} onClick={redo} />
        <Saved />
        <Budget />
        <IconButton icon={Keyboard} label="Keys (?)" onClick={() => set({ keys: true })} />
        <IconButton
          icon={theme === 'chalk' ? Moon : Sun}
          label={theme === 'chalk' ? 'Dusk: for dim rooms' : 'Chalk: for daylight'}
          onClick={() => {
            applyTheme(other)
            set({ theme: other })
          }}
        />
        <button
          type="button"
          className="flex h-7 items-center gap-2 rounded-md border border-rule px-2 text-soft hover:bg-well hover:text-ink"
          onClick={() => set({ searching: true })}
        >
          <Search size={13} aria-hidden />
          <span className="max-[1100px]:sr-only">Find</span>
          <kbd className="font-mono text-[11px] max-xl:hidden">Ctrl K</kbd>
        </button>
      </div>
    </header>
  )
}
