import { Users } from 'lucide-react'
import { useScene } from '../state/scene'
import { Button } from '../ui/Button'

/** Two changed the same at once: both values, and whose is to hold. Theirs does until then. */
export function ConflictCard() {
  const first = useScene((s) => s.undecided[0])
  const more = useScene((s) => s.undecided.length - 1)
  const decide = useScene((s) => s.decide)
  if (!first) return null
  const { setting, author, theirs_in_words, yours_in_words } = first.conflict
  const who = author || 'Someone'
  return (
    <section
      aria-label="Changed by two at once"
      data-testid="conflict"
      className="absolute bottom-36 left-3 z-30 w-80 rounded-md border border-rule bg-panel p-3 shadow-lg"
    >
      <h2 className="flex items-center gap-2 font-medium">
        <Users size={14} aria-hidden className="text-lichen" />
        {setting}
      </h2>
      <p className="mt-1 text-soft">{who} changed this while you did. Theirs holds; yours is kept here until you say.</p>
      <dl className="mt-2 grid grid-cols-[5.5rem_1fr] gap-y-1">
        <dt className="text-soft">Theirs</dt>
        <dd className="truncate font-mono" title={theirs_in_words ?? undefined}>{theirs_in_words ?? 'taken out'}</dd>
        <dt className="text-soft">Yours</dt>
        <dd className="truncate font-mono" title={yours_in_words ?? undefined}>{yours_in_words ?? 'taken out'}</dd>
      </dl>
      <div className="mt-2 flex items-center gap-2">
        <Button onClick={() => decide(first.id, false)}>Keep theirs</Button>
        <Button look="quiet" onClick={() => decide(first.id, true)}>
          Use mine
        </Button>
        {more > 0 && <span className="ml-auto text-soft">and {more} more</span>}
      </div>
    </section>
  )
}
