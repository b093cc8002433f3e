import { useQuery } from '@tanstack/react-query'
import { X } from 'lucide-react'
import { useState } from 'react'
import { api, wanted } from '../api/client'
import { useStills } from '../state/data'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { Choice } from '../ui/Choice'
import { IconButton } from '../ui/IconButton'
import { ageOf } from './age'

/** One still, or two beside each other or under a wipe, with the list of settings that differ. */
export function CompareStills() {
  const compared = useUi((s) => s.compared)!
  const set = useUi((s) => s.set)
  const seq = useScene((s) => s.scene!.seq)
  const { data: stills } = useStills()
  const [how, setHow] = useState<'beside' | 'wipe'>('beside')
  const [wipe, setWipe] = useState(50)
  const a = stills?.find((s) => s.id === compared.a)
  const b = stills?.find((s) => s.id === compared.b)
  const { data: differences } = useQuery({
    queryKey: ['differences', a?.id, b?.id],
    enabled: Boolean(a && b),
    queryFn: () =>
      wanted(api.GET('/api/stills/{still}/differences/{other}', { params: { path: { still: a!.id, other: b!.id } } })),
  })
  // A pair that was just asked for comes when both are there.
  if (!a?.picture || (b && !b.picture)) return null
  const picture = (s: typeof a, className = '') => (
    <img src={`/api/blobs/${s.picture}`} alt={`${s.shot_name}, ${ageOf(s, seq)}`} className={`max-h-full min-h-0 max-w-full object-contain ${className}`} />
  )
  return (
    <section aria-label="Stills" data-testid="compare" className="absolute inset-0 z-20 flex flex-col bg-paper">
      <header className="flex h-11 shrink-0 items-center gap-3 px-3">
        <h2 className="font-semibold">{b ? 'What changed' : a.shot_name}</h2>
        {b ? (
          <Choice<'beside' | 'wipe'>
            label="How to compare"
            value={how}
            options={[
              { value: 'beside', name: 'Side by side' },
              { value: 'wipe', name: 'Wipe' },
            ]}
            onChange={(v) => setHow(v)}
          />
        ) : (
          <p className="text-soft">Choose “set beside another” on a second still to compare.</p>
        )}
        <IconButton icon={X} label="Back to the view" className="ml-auto" onClick={() => set({ compared: null })} />
      </header>
      {!b && <div className="grid min-h-0 flex-1 place-items-center px-3 pb-3">{picture(a)}</div>}
      {b && how === 'beside' && (
        <div className="grid min-h-0 flex-1 grid-cols-2 gap-2 px-3">
          {[a, b].map((s, i) => (
            <figure key={s.id} className="flex min-h-0 flex-col justify-center">
              {picture(s)}
              <figcaption className="pt-1 text-xs text-soft">
                {i === 0 ? 'First' : 'Second'}: {s.shot_name}, {ageOf(s, seq)}
              </figcaption>
            </figure>
          ))}
        </div>
      )}
      {b && how === 'wipe' && (
        <div className="grid min-h-0 flex-1 place-items-center px-3">
          <div className="relative max-h-full">
            {picture(a, 'block')}
            <div className="absolute inset-0" style={{ clipPath: `inset(0 0 0 ${wipe}%)` }}>
              {picture(b, 'size-full object-fill!')}
            </div>
            <div className="absolute inset-y-0 w-0.5 bg-thrift" style={{ left: `${wipe}%` }} aria-hidden />
            <input
              type="range"
              aria-label="Wipe"
              min={0}
              max={100}
              value={wipe}
              onChange={(e) => setWipe(Number(e.currentTarget.value))}
              className="absolute inset-0 size-full cursor-ew-resize opacity-0"
            />
          </div>
        </div>
      )}
      {b && (
        <div className="max-h-56 shrink-0 overflow-y-auto px-3 py-2" tabIndex={0} role="region" aria-label="Settings that differ">
          {differences?.length === 0 && <p className="text-soft">No setting differs between the two.</p>}
          {differences && differences.length > 0 && (
            <table className="w-full text-left" data-testid="differences">
              <thead className="text-xs text-soft">
                <tr>
                  <th className="font-normal">Setting</th>
                  <th className="font-normal">First</th>
                  <th className="font-normal">Second</th>
                </tr>
              </thead>
              <tbody>
                {differences.map((d) => (
                  <tr key={d.setting} className="border-t border-rule">
                    <td className="py-0.5">{d.setting}</td>
                    <td className="font-mono text-xs">{d.before ?? 'none'}</td>
                    <td className="font-mono text-xs">{d.after ?? 'none'}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </div>
      )}
    </section>
  )
}
