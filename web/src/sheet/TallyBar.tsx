import type { Schemas, Tally } from '../api/client'
import { useScene } from '../state/scene'
import { showCount } from '../ui/parse'
import { YieldSelect } from './clearance/YieldSelect'
import { QUANTITIES } from './masks/quantities'

const COLOURS = ['var(--lichen)', 'var(--fern)', '#8a7fa0', '#a0704c', '#7a9aa6']

const layerName = (id: number) => useScene.getState().scene?.document.layers.find((l) => l.id === id)?.name ?? 'another layer'

/** Why a place stayed empty, in words. */
export function reasonWords(reason: Schemas['Reason']): string {
  switch (reason.rule) {
    case 'cap':
      return 'over the ceiling'
    case 'own_kind':
      return 'too near its own kind'
    case 'obstacle':
      return 'too near an obstacle'
    case 'edge':
      return 'over an edge'
    case 'track':
      return 'on a track'
    case 'tended':
      return 'tended by hand'
    case 'layer':
      return `too near ${layerName(reason.id)}`
  }
  return QUANTITIES[reason.quantity].name.toLowerCase()
}

const Dot = ({ colour }: { colour: string }) => <span className="size-2 shrink-0 rounded-sm" style={{ background: colour }} aria-hidden />

/** Of all the places looked at: how many hold a plant, and which rule refused the rest; where another layer did, who gives way to whom. */
export function TallyBar({ of, tally, byChance, growing = false }: { of: number; tally: Tally; byChance: boolean; growing?: boolean }) {
  const parts = [
    { name: 'placed', count: tally.placed, colour: 'var(--sea)', by: undefined },
    ...tally.refused.map((r, i) => ({
      name: reasonWords(r.reason),
      count: r.count,
      by: r.reason.rule === 'layer' ? r.reason.id : undefined,
      colour: r.reason.rule === 'cap' ? 'var(--iron)' : COLOURS[i % COLOURS.length],
    })),
  ].filter((p) => p.count > 0)
  const whole = Math.max(1, tally.candidates)

  return (
    <figure className={`mt-2.5 transition-opacity ${growing ? 'opacity-45' : ''}`} aria-label="Asked, placed, refused" aria-busy={growing} data-testid="tally">
      <p className="mb-1 text-xs text-soft">
        <span className="font-mono text-ink" data-testid="asked">
          {showCount(tally.asked)}
        </span>{' '}
        asked for,{' '}
        <span className="font-mono text-ink" data-testid="placed" data-placed={tally.placed}>
          {showCount(tally.placed)}
        </span>{' '}
        placed; {growing ? 'growing\u2026' : <>{showCount(tally.candidates)} places looked at</>}
        {byChance && tally.placed !== tally.asked && tally.refused.every((r) => r.reason.rule !== 'cap' || r.count === 0) && (
          <>. Places at random fall unevenly over what the masks allow, so the two need not agree</>
        )}
      </p>
      <div className="flex h-2 gap-px overflow-hidden rounded-full bg-well" aria-hidden>
        {parts.map((p, i) => (
          <span key={i} style={{ width: `${(p.count / whole) * 100}%`, background: p.colour }} />
        ))}
      </div>
      <ul className="mt-1.5 flex flex-wrap gap-x-3 gap-y-0.5 text-xs text-soft">
        {parts.filter((p) => p.by === undefined).map((p) => (
          <li key={p.name} className="flex items-center gap-1">
            <Dot colour={p.colour} />
            {p.name === 'placed' ? 'placed' : `refused: ${p.name}`} <span className="font-mono">{showCount(p.count)}</span>
          </li>
        ))}
      </ul>
      <ul className="mt-1 flex flex-col gap-0.5 text-xs text-soft" data-testid="refused-by-layers">
        {parts.filter((p) => p.by !== undefined).map((p) => (
          <li key={p.by} className="flex items-center gap-1">
            <Dot colour={p.colour} />
            <span className="min-w-0 flex-1 truncate">refused: {p.name}</span>
            <span className="font-mono">{showCount(p.count)}</span>
            <span className="w-34 shrink-0 text-right">
              <YieldSelect of={of} to={p.by!} />
            </span>
          </li>
        ))}
      </ul>
    </figure>
  )
}
