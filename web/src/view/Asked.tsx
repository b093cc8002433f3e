import { useQuery } from '@tanstack/react-query'
import { X } from 'lucide-react'
import { api, wanted, type Schemas } from '../api/client'
import { YieldSelect } from '../sheet/clearance/YieldSelect'
import { useScene } from '../state/scene'
import { inTime, useUi } from '../state/ui'
import { useView } from '../state/view'
import { IconButton } from '../ui/IconButton'
import { showNumber } from '../ui/parse'

const stands = (v: Schemas['Verdict']) => v.share > 0 && !v.room.some((r) => r.refuses)

/** What is kept clear of here, by name. */
function nearest(v: Schemas['Verdict'], { layers, obstacles = [] }: Schemas['Document']) {
  const name = (r: Schemas['RoomReading']) => {
    if (r.reason.rule === 'edge') return 'the edge of its zone'
    if (r.reason.rule === 'track') return 'a track'
    const id = r.reason.rule === 'layer' ? r.reason.id : r.obstacle
    const list: { id: number; name: string }[] = r.reason.rule === 'layer' ? layers : obstacles
    return list.find((o) => o.id === id)?.name ?? 'something'
  }
  const near = v.room.filter((r) => r.away_m < r.kept_m + 2)
  return near.map((r) => ({
    words: `${r.refuses ? 'no room: ' : ''}${showNumber(r.away_m, 2)} m from ${name(r)}, ${showNumber(r.kept_m, 2)} m kept`,
    by: r.refuses && r.reason.rule === 'layer' ? r.reason.id : undefined,
  }))
}

/** What the ground answered: layer by layer, why something grows at a point or does not. */
export function Asked() {
  const asked = useView((s) => s.asked)
  const stage = useView((s) => s.stage)
  useView((s) => s.frame)
  const probing = useUi((s) => s.probing)
  const set = useView((s) => s.set)
  const scene = useScene((s) => s.scene)
  const { data, error } = useQuery({
    queryKey: ['probe', scene?.id, scene?.seq, asked?.x, asked?.y, asked?.z, asked?.ground],
    enabled: Boolean(scene && asked && probing),
    queryFn: () =>
      wanted(
        api.GET('/api/scenes/{scene}/probe', {
          params: { path: { scene: scene!.id }, query: { x: asked!.x, y: asked!.y, z: asked!.z, ground: asked!.ground } },
        }),
      ),
  })
  if (!probing || !asked) return null
  const at = stage?.project(asked)
  const on = scene?.document.grounds?.find((g) => g.id === asked.ground)

  return (
    <>
      {at && (
        <svg className="pointer-events-none absolute size-8 -translate-x-1/2 -translate-y-1/2" style={{ left: at.x, top: at.y }} viewBox="-16 -16 32 32" aria-hidden>
          <ellipse rx="13" ry="6" fill="none" className="stroke-panel" strokeWidth="4" />
          <ellipse rx="13" ry="6" fill="none" className="stroke-thrift" strokeWidth="2" />
          <circle r="1.8" className="fill-thrift" />
        </svg>
      )}
      <aside
        aria-label="What the ground says"
        className="absolute top-23 left-3 w-80 rounded-md border border-rule bg-panel px-3 py-2 shadow-lg"
      >
        <header className="flex items-center justify-between">
          <h2 className="font-semibold">
            At E {showNumber(asked.x, 1)}, N {showNumber(-asked.z, 1)}
            {on && <span className="font-normal text-soft">, {showNumber(asked.y, 1)} m up on {on.name}</span>}
          </h2>
          <IconButton icon={X} label="Close" onClick={() => set({ asked: null })} />
        </header>
        {error && <p className="text-iron">{error.message}</p>}
        <WindHere asked={asked} />
        <ul className="mt-1 divide-y divide-rule">
          {data?.map((l) => (
            <li key={l.id} className="py-1.5">
              <div className="flex justify-between gap-2">
                <span className="font-medium">{l.name}</span>
                <span className={`font-mono text-xs ${stands(l.verdict) ? 'text-fern' : 'text-iron'}`}>
                  {stands(l.verdict) ? `${Math.round(l.verdict.share * 100)} % may stand` : 'none'}
                </span>
              </div>
              <p className="text-xs text-soft">{l.verdict.words}</p>
              {nearest(l.verdict, scene!.document).map(({ words, by }) => (
                <p key={words} className="text-xs text-soft">
                  {words} {by !== undefined && <YieldSelect of={l.id} to={by} />}
                </p>
              ))}
            </li>
          ))}
        </ul>
      </aside>
    </>
  )
}

/** The mean wind over a point, where the wind counts. */
function WindHere({ asked }: { asked: { x: number; y: number; z: number; ground: number } }) {
  const here = useUi((s) => inTime(s.station))
  const scene = useScene((s) => s.scene)
  const blows = (scene?.document.motion?.wind?.speed_m_per_s ?? 0) > 0
  const { data } = useQuery({
    queryKey: ['wind', scene?.id, scene?.seq, asked.x, asked.y, asked.z, asked.ground],
    enabled: Boolean(scene && here && blows),
    queryFn: () =>
      wanted(api.GET('/api/scenes/{scene}/wind', { params: { path: { scene: scene!.id }, query: { x: asked.x, y: asked.y, z: asked.z, ground: asked.ground } } })),
  })
  if (!data) return null
  return (
    <table className="mt-1 w-full text-xs" data-testid="wind-here">
      <caption className="text-left text-soft">Mean wind, against that over level ground</caption>
      <tbody className="font-mono">
        {data.heights.map((h) => (
          <tr key={h.height_m}>
            <td>{showNumber(h.height_m, 1)} m up</td>
            <td className="text-right">{showNumber(h.times, 2)} times</td>
            <td className="text-right">{showNumber(h.speed_m_per_s, 1)} m/s</td>
            <td className="text-right">from {showNumber(h.from_deg, 0)}°</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
