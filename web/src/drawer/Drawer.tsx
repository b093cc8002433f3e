import { X } from 'lucide-react'
import { useUi } from '../state/ui'
import { IconButton } from '../ui/IconButton'
import { Account } from './Account'
import { Notes } from './Notes'
import { Section } from './Section'
import { useNotes } from './useNotes'

const TABS = [
  { id: 'section', name: 'Section' },
  { id: 'account', name: 'Account' },
  { id: 'notes', name: 'Notes' },
] as const

/** Below the view: what was measured. Closed until wanted. */
export function Drawer() {
  const { drawer, set } = useUi()
  const notes = useNotes()
  const open = drawer !== 'closed'
  return (
    <section aria-label="Drawer" className="shrink-0 border-t border-rule bg-panel">
      <div className="flex h-9 items-center gap-1 px-2">
        {TABS.map((t) => (
          <button
            key={t.id}
            type="button"
            aria-expanded={drawer === t.id}
            className={`flex h-7 items-center gap-1.5 rounded-md px-2 hover:bg-well ${drawer === t.id ? 'font-semibold' : 'text-soft'}`}
            onClick={() => set({ drawer: drawer === t.id ? 'closed' : t.id })}
          >
            {t.name}
            {t.id === 'notes' && notes.length > 0 && (
              <span className="rounded bg-lichen-wash px-1 font-mono text-[11px] leading-4 text-lichen">{notes.length}</span>
            )}
          </button>
        ))}
        {open && <IconButton icon={X} label="Close the drawer" className="ml-auto" onClick={() => set({ drawer: 'closed' })} />}
      </div>
      {open && (
        <div className="h-52 overflow-y-auto border-t border-rule px-3 py-2" role="region" aria-label={drawer} tabIndex={0}>
          {drawer === 'section' ? <Section /> : drawer === 'account' ? <Account /> : <Notes notes={notes} />}
        </div>
      )}
    </section>
  )
}
