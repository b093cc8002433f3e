import { Check } from 'lucide-react'
import { Popover } from 'radix-ui'
import { useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from 'react'
import type { Kind, Species } from '../api/client'
import { useNursery } from '../state/data'
import { Button } from '../ui/Button'
import { KINDS, sayLength } from './kinds'
import { Portrait } from './Portrait'
import { lately, remember } from './lately'
import { found } from './search'

export interface SpeciesPickerProps {
  /** What the pick is for: "Add a layer". */
  title: string
  /** What opens it. */
  children: ReactNode
  /** The kind that is shown first. */
  kind?: Kind
  /** Those that cannot be picked: they are in the mix already. */
  taken?: string[]
  /** One was picked. */
  onPick(species: Species): void
  /** Several may be gathered; what can be done with them, said on buttons. */
  several?: { label: string; hint: string; onPick(species: Species[]): void }[]
}

/** Choosing a species by its picture: by kind, by words, or among those taken last. */
export function SpeciesPicker({ title, children, kind: first, taken = [], onPick, several }: SpeciesPickerProps) {
  const [open, setOpen] = useState(false)
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>{children}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label={title}
          data-testid="species-picker"
          sideOffset={6}
          align="start"
          collisionPadding={8}
          className="z-40 flex h-[min(560px,var(--radix-popover-content-available-height))] w-[min(640px,calc(100vw-16px))] flex-col overflow-hidden rounded-md border border-rule bg-panel shadow-lg"
        >
          <Shelf
            {...{ title, first, taken, several }}
            onPick={(species) => {
              remember(species.map((s) => s.id))
              setOpen(false)
              onPick(species[0])
            }}
            onSeveral={(way, species) => {
              remember(species.map((s) => s.id))
              setOpen(false)
              several![way].onPick(species)
            }}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}

interface ShelfProps extends Pick<SpeciesPickerProps, 'title' | 'several'> {
  first?: Kind
  taken: string[]
  onPick(species: Species[]): void
  onSeveral(way: number, species: Species[]): void
}

function Shelf({ title, first, taken, several, onPick, onSeveral }: ShelfProps) {
  const { data } = useNursery()
  const [words, setWords] = useState('')
  const [kind, setKind] = useState<Kind | null>(first ?? null)
  const [gathered, setGathered] = useState<Species[]>([])
  const grid = useRef<HTMLDivElement>(null)
  const all = useMemo(() => data?.species ?? [], [data])
  // Words look through all kinds: who types a name does not know under which it stands.
  const list = useMemo(
    () => found(all, { words, kind: words ? null : kind, here: false, order: 'kind', flowering: null }, new Set()),
    [all, words, kind],
  )
  const last = useMemo(() => lately().flatMap((id) => all.filter((s) => s.id === id)), [all])
  const gather = (s: Species) => setGathered((g) => (g.includes(s) ? g.filter((o) => o !== s) : [...g, s]))
  const take = (s: Species, more: boolean) => (several && (more || gathered.length > 0) ? gather(s) : onPick([s]))

  const walk = (e: KeyboardEvent) => {
    const cards = [...grid.current!.querySelectorAll<HTMLButtonElement>('button:not(:disabled)')]
    const at = cards.indexOf(document.activeElement as HTMLButtonElement)
    const step = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: 5, ArrowUp: -5 }[e.key]
    if (step === undefined || at < 0) return
    e.preventDefault()
    cards[Math.max(0, Math.min(cards.length - 1, at + step))].focus()
  }
  const card = (s: Species, small = false) => (
    <button
      key={s.id}
      type="button"
      disabled={taken.includes(s.id)}
      aria-pressed={gathered.includes(s)}
      aria-label={small ? `${s.name}, lately` : s.name}
      data-testid={small ? undefined : `pick-${s.id}`}
      onClick={(e) => take(s, e.ctrlKey || e.metaKey || e.shiftKey)}
      className={`relative overflow-hidden rounded-md border text-left disabled:opacity-40 ${gathered.includes(s) ? 'border-thrift ring-2 ring-thrift/25' : 'border-rule hover:border-soft'}`}
    >
      <Portrait species={s} pixels={small ? 96 : 176} urgent />
      <span className="block truncate px-1.5 pt-1 text-xs">{s.name}</span>
      {!small && <span className="block px-1.5 pb-1 font-mono text-[11px] text-soft">{taken.includes(s.id) ? 'in the mix' : sayLength(s.height_m)}</span>}
      {gathered.includes(s) && (
        <span className="absolute top-1 right-1 rounded-full bg-thrift p-0.5 text-on-thrift">
          <Check size={11} aria-hidden />
        </span>
      )}
    </button>
  )
  return (
    <>
      <header className="flex items-center gap-3 border-b border-rule px-3 py-2">
        <h2 className="font-semibold whitespace-nowrap">{title}</h2>
        <input
          type="search"
          autoFocus
          aria-label="Search all species"
          data-testid="pick-search"
          placeholder="Name or tag"
          value={words}
          onChange={(e) => setWords(e.currentTarget.value)}
          onKeyDown={(e) => {
            e.stopPropagation()
            if (e.key === 'Enter' && list[0] && words) take(list.find((s) => !taken.includes(s.id)) ?? list[0], false)
            if (e.key === 'ArrowDown') grid.current!.querySelector<HTMLButtonElement>('button:not(:disabled)')?.focus()
          }}
          className="h-7 min-w-0 flex-1 rounded-md border border-rule bg-panel px-2 outline-none focus:border-soft"
        />
      </header>
      <div className="flex min-h-0 flex-1">
        <nav aria-label="Kinds" className="flex w-[104px] shrink-0 flex-col gap-0.5 overflow-y-auto border-r border-rule p-1.5">
          {[{ id: null, name: 'All' }, ...KINDS].map((k) => (
            <button
              key={k.name}
              type="button"
              aria-pressed={!words && kind === k.id}
              onClick={() => {
                setWords('')
                setKind(k.id)
              }}
              className={`rounded px-2 py-1 text-left ${!words && kind === k.id ? 'bg-thrift-wash font-medium' : 'text-soft hover:bg-well'}`}
            >
              {k.name}
            </button>
          ))}
        </nav>
        <div ref={grid} onKeyDown={walk} className="min-w-0 flex-1 overflow-y-auto p-2.5">
          {!words && last.length > 0 && (
            <section aria-label="Taken lately" className="mb-3">
              <h3 className="mb-1 text-[11px] text-soft">Lately</h3>
              <div className="grid grid-cols-8 gap-1.5">{last.map((s) => card(s, true))}</div>
            </section>
          )}
          <div className="grid grid-cols-5 gap-2">{list.map((s) => card(s))}</div>
          {data && list.length === 0 && <p className="text-soft">No species of that name. A mesh of your own can be brought in the nursery.</p>}
        </div>
      </div>
      {several && (
        <footer className="flex items-center gap-2 border-t border-rule px-3 py-2 text-xs text-soft">
          <span className="mr-auto">{gathered.length === 0 ? 'A click takes one; Ctrl-click gathers several.' : gathered.map((s) => s.name).join(', ')}</span>
          {gathered.length > 0 &&
            several.map((way, i) => (
              <Button key={way.label} look={i === 0 ? 'primary' : 'plain'} title={way.hint} onClick={() => onSeveral(i, gathered)}>
                {way.label}
              </Button>
            ))}
        </footer>
      )}
    </>
  )
}
