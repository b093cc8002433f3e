import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, wanted, type Layer, type Schemas } from '../../api/client'
import { useScene } from '../../state/scene'
import { Button } from '../../ui/Button'
import { changeKeep, clearanceOf } from './clearance'

type Count = Schemas['ResponseCount']
const NAMES = { remove: 'Remove', shrink: 'Shrink', bend: 'Bend aside', trim: 'Trim' }

/** What each response would come to on the same spot; a row is taken with a click. */
export function Responses({ layer, beside }: { layer: Layer; beside: Schemas['Beside'] }) {
  const scene = useScene((s) => s.scene!)
  const key = scene.layers.find((l) => l.id === layer.id)?.plants_key
  const [open, setOpen] = useState(false)
  const { data, isFetching, error } = useQuery({
    // The plants tell of everything that counts here.
    queryKey: ['responses', layer.id, beside, key],
    enabled: open,
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) => wanted(api.GET('/api/scenes/{scene}/layers/{layer}/responses/{beside}', { params: { path: { scene: scene.id, layer: layer.id, beside } }, signal })),
  })
  const now = clearanceOf(layer)[beside].response ?? 'remove'
  const n = (count: number) => (count > 0 ? count.toLocaleString('en') : '')
  return (
    <div>
      <Button look="quiet" onClick={() => setOpen(!open)} aria-expanded={open} data-testid={`compare-${beside}`}>
        {open ? 'Fold the comparison' : 'Compare on this spot'}
      </Button>
      {open && error && <p className="text-xs text-alarm">{error.message}</p>}
      {open && !data && !error && <p className="text-xs text-soft">Growing it each way …</p>}
      {open && data && (
        <table className={`w-full text-xs ${isFetching ? 'opacity-60' : ''}`} data-testid={`responses-${beside}`} aria-label="What each response comes to">
          <thead>
            <tr className="text-right text-soft">
              <th />
              <th className="py-0.5 pl-2 font-normal">stand</th>
              <th className="pl-2 font-normal">refused</th>
              <th className="pl-2 font-normal">smaller</th>
              <th className="pl-2 font-normal">{beside === 'obstacles' ? 'bent' : 'cut'}</th>
            </tr>
          </thead>
          <tbody className="font-mono">
            {data.map((row: Count) => (
              <tr key={row.response ?? 'free'} className={`border-t border-rule text-right ${row.response === now ? 'bg-thrift-wash' : ''}`}>
                <td className="py-0.5 text-left font-sans">
                  {row.response ? (
                    <button type="button" disabled={layer.locked} className="underline decoration-rule underline-offset-2 hover:decoration-ink" onClick={() => changeKeep(layer, beside, { response: row.response! })}>
                      {NAMES[row.response]}
                    </button>
                  ) : (
                    <span className="text-soft">No clearance</span>
                  )}
                </td>
                <td className="pl-2">{row.stand.toLocaleString('en')}</td>
                <td className="pl-2">{n(row.refused)}</td>
                <td className="pl-2">{n(row.smaller)}</td>
                <td className="pl-2">{n(row.bent + row.trimmed)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  )
}
