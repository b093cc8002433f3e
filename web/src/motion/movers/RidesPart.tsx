import { Plus, Trash2, Waves } from 'lucide-react'
import { useState } from 'react'
import type { PlacedGround } from '../../api/client'
import { useClock } from '../../state/clock'
import { useScene } from '../../state/scene'
import { useUi } from '../../state/ui'
import { Button } from '../../ui/Button'
import { IconButton } from '../../ui/IconButton'
import { NumberField } from '../../ui/NumberField'
import { Part } from '../../ui/Part'
import { Switch } from '../../ui/Switch'
import { showNumber } from '../../ui/parse'
import { CLOCK } from '../usual'
import { MOST_KEYS, MOST_MOVING, firstKeys, setKeys, shaken, shakenUpTo, withKey, type MoveKey, type Shake } from './rides'

/** Grounds beside the land that move or are shaken, with all that grows on them. */
export function RidesPart() {
  const grounds = useScene((s) => s.scene!.document.grounds) ?? []
  const length = useScene((s) => s.scene!.document.motion?.clock?.length_s) ?? CLOCK.length_s
  const { chosen, set } = useUi()
  const moving = grounds.filter((g) => g.moves).length
  return (
    <Part title="Moving grounds" summary={grounds.length === 0 ? 'no ground beside the land' : moving === 0 ? 'all stay' : `${moving} of ${grounds.length}`}>
      {grounds.length === 0 && <p className="text-xs text-soft">A mesh, a planet or a further terrain can move and carry what grows on it. Add one at Site, under Grounds.</p>}
      <ul className="-ml-1">
        {grounds.map((g) => {
          const open = chosen?.what === 'ground' && chosen.id === g.id
          return (
            <li key={g.id} className={`rounded-md ${open ? 'bg-thrift-wash' : 'hover:bg-well'}`}>
              <div className="flex h-8 items-center gap-2 px-1">
                <button type="button" aria-pressed={open} aria-label={`${open ? 'Close' : 'Open'} ${g.name}`} className="min-w-0 flex-1 truncate text-left" onClick={() => set({ chosen: open ? null : { what: 'ground', id: g.id } })}>
                  {g.name}
                  <span className="ml-2 text-xs text-soft">{g.moves ? `${g.moves.keys.length} keys` : 'stays'}{g.hidden && ', hidden'}</span>
                </button>
                <Switch
                  label={`${g.name} moves`} on={Boolean(g.moves)} disabled={!g.moves && moving >= MOST_MOVING}
                  onChange={(on) => {
                    setKeys(g.id, on ? firstKeys(length) : null)
                    set({ chosen: on ? { what: 'ground', id: g.id } : null })
                  }}
                />
              </div>
              {open && g.moves && <RideFields ground={g} keys={g.moves.keys} />}
            </li>
          )
        })}
      </ul>
    </Part>
  )
}

const FIELDS: { of: 'x_m' | 'z_m' | 'y_m' | 'turn_deg'; label: string; sign: 1 | -1; most: number; unit: string }[] = [
  { of: 'x_m', label: 'East', sign: 1, most: 1000, unit: 'm' },
  { of: 'z_m', label: 'North', sign: -1, most: 1000, unit: 'm' },
  { of: 'y_m', label: 'Up', sign: 1, most: 1000, unit: 'm' },
  { of: 'turn_deg', label: 'Turn', sign: 1, most: 3600, unit: '°' },
]

function RideFields({ ground: g, keys }: { ground: PlacedGround; keys: MoveKey[] }) {
  const time = useClock((s) => s.time)
  const change = (at: number, part: Partial<MoveKey>, gesture?: string) => setKeys(g.id, keys.map((k, i) => (i === at ? { ...k, ...part } : k)), gesture)
  const more = withKey(keys, time)
  return (
    <div className="flex flex-col gap-2 px-1 pb-2">
      <p className="text-xs text-soft">Where it is at each time, from where it stands; it turns about its base point. Drag the keys below the view for other times. What grows on it goes along and lags behind.</p>
      <table className="text-xs" data-testid={`keys-${g.id}`}>
        <thead>
          <tr className="text-left text-[11px] text-soft">
            {['At, s', 'East, m', 'North, m', 'Up, m', 'Turn, °'].map((h) => <th key={h} className="pb-0.5 font-normal">{h}</th>)}
            <th />
          </tr>
        </thead>
        <tbody>
          {keys.map((k, i) => (
            <tr key={i}>
              <td className="pr-0.5 pb-0.5">
                <NumberField
                  label={`Time of key ${i + 1}`} hideLabel tight testId={`key-${i}-time`} value={k.time_s} min={i > 0 ? keys[i - 1].time_s + 0.01 : 0} max={i + 1 < keys.length ? keys[i + 1].time_s - 0.01 : 3600} step={0.1} digits={2}
                  onChange={(time_s, gesture) => change(i, { time_s }, gesture)}
                />
              </td>
              {FIELDS.map(({ of, label, sign, most }) => (
                <td key={of} className="pr-0.5 pb-0.5">
                  <NumberField
                    label={`${label} at key ${i + 1}`} hideLabel tight testId={`key-${i}-${label.toLowerCase()}`} value={k[of] * sign + 0} min={-most} max={most} step={of === 'turn_deg' ? 5 : 0.1} digits={2} fallback={0}
                    onChange={(v, gesture) => change(i, { [of]: v * sign + 0 }, gesture)}
                  />
                </td>
              ))}
              <td className="pb-0.5">
                <IconButton icon={Trash2} label={keys.length > 2 ? `Delete key ${i + 1}` : 'Delete this key: one is no way, so it stays where it stands'} onClick={() => setKeys(g.id, keys.filter((_, j) => j !== i))} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="flex flex-wrap items-center gap-1.5">
        <Button data-testid="add-key" disabled={keys.length >= MOST_KEYS || more === keys} title={more === keys ? 'There is a key at this time; go to another' : 'At the time that is shown'} onClick={() => setKeys(g.id, more)}>
          <Plus size={13} aria-hidden />
          Key at {showNumber(time, 2)} s
        </Button>
      </div>
      <ShakeFields keys={keys} time={time} onShake={(all) => setKeys(g.id, all)} />
    </div>
  )
}

function ShakeFields({ keys, time, onShake }: { keys: MoveKey[]; time: number; onShake(keys: MoveKey[]): void }) {
  const [shake, setShake] = useState<Shake>({ by_m: 0.08, hz: 3, seconds: 2 })
  const upTo = shakenUpTo(keys, shake, time)
  const seconds = Math.min(shake.seconds, upTo)
  const set = (part: Partial<Shake>) => setShake({ ...shake, ...part })
  return (
    <div className="grid grid-cols-[1fr_1fr_1fr_auto] items-end gap-1.5">
      <NumberField label="Shake by" testId="shake-by" unit="m" value={shake.by_m} min={0.001} max={10} step={0.01} digits={3} fallback={0.08} hint="To either side." onChange={(by_m) => set({ by_m })} />
      <NumberField label="Times" testId="shake-hz" unit="/s" value={shake.hz} min={0.2} max={20} step={0.5} digits={1} fallback={3} hint="To and fro in a second." onChange={(hz) => set({ hz })} />
      <NumberField label="For" testId="shake-for" unit="s" value={shake.seconds} min={0.2} max={60} step={0.5} digits={1} fallback={2} hint={`A ground has ${MOST_KEYS} keys at most: at this pace ${showNumber(Math.max(0, upTo), 1)} s.`} onChange={(v) => set({ seconds: v })} />
      <Button data-testid="shake" disabled={seconds * shake.hz < 0.5} title={seconds < shake.seconds ? `Shakes it for ${showNumber(seconds, 1)} s: more keys it may not have` : `Adds keys from ${showNumber(time, 2)} s on, the time that is shown: to and fro about its way`} onClick={() => onShake(shaken(keys, { ...shake, seconds }, time))}>
        <Waves size={13} aria-hidden />
        Shake it
      </Button>
    </div>
  )
}
