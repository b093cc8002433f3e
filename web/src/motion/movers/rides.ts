import type { Schemas } from '../../api/client'
import { useScene } from '../../state/scene'

export type MoveKey = Schemas['MoveKey']

/** Keys of a moving ground at most, as in rookery-core/src/document/moving.rs. */
export const MOST_KEYS = 64
/** Grounds of a scene that move, at most. */
export const MOST_MOVING = 4
/** The longest that it plays, seconds. */
const LONGEST_S = 3600

const REST = { x_m: 0, y_m: 0, z_m: 0, turn_deg: 0 }
const round = (v: number) => Number(v.toFixed(3))

/** Gives a ground other keys; with less than two it stays where it stands. */
export function setKeys(id: number, keys: MoveKey[] | null, gesture?: string) {
  const moves = keys && keys.length >= 2 ? { keys } : null
  useScene.getState().run({ do: 'change', what: { of: 'ground', id }, fields: { moves } }, gesture, gesture && `ground ${id} moves`)
}

/** To the east and back within the time that is played, so that it can be played over and over. */
export function firstKeys(length_s: number): MoveKey[] {
  return [{ time_s: 0, ...REST }, { time_s: round(length_s / 2), ...REST, x_m: 2 }, { time_s: round(length_s), ...REST }]
}

const BETWEEN = ['x_m', 'y_m', 'z_m', 'turn_deg'] as const

/** Where a ground is at a time, going straight from key to key. */
function at(keys: MoveKey[], time: number): MoveKey {
  const next = keys.findIndex((k) => k.time_s > time)
  const [a, b] = [keys[next < 0 ? keys.length - 1 : Math.max(0, next - 1)], keys[next < 0 ? keys.length - 1 : next]]
  const u = b.time_s > a.time_s ? Math.max(0, (time - a.time_s) / (b.time_s - a.time_s)) : 0
  const key = { ...a, time_s: round(time) }
  for (const of of BETWEEN) key[of] = round(a[of] + (b[of] - a[of]) * u)
  return key
}

/** One more key at a time, where the ground is between its neighbours; none where one is already. */
export function withKey(keys: MoveKey[], time: number): MoveKey[] {
  const key = at(keys, Math.min(Math.max(time, 0), LONGEST_S))
  if (keys.some((k) => Math.abs(k.time_s - key.time_s) < 0.05)) return keys
  return [...keys, key].sort((p, q) => p.time_s - q.time_s)
}

/** How a ground is shaken. */
export interface Shake {
  /** To either side, metres. */
  by_m: number
  /** A second. */
  hz: number
  seconds: number
}

/** How long it can be shaken from a time on with the keys that are left, seconds. */
export const shakenUpTo = (keys: MoveKey[], { hz }: Shake, from: number) => (MOST_KEYS - keys.filter((k) => k.time_s < from).length - 2) / (2 * hz)

/** Shaken from a time on: to and fro about its way with a turn of the direction each time, and on along its way. What keys were in that time give way. */
export function shaken(keys: MoveKey[], { by_m, hz, seconds }: Shake, from: number): MoveKey[] {
  const before = keys.filter((k) => k.time_s < from - 1e-3)
  const many = Math.max(1, Math.floor(Math.min(seconds, shakenUpTo(keys, { by_m, hz, seconds }, from)) * 2 * hz))
  const end = from + (many + 1) / (2 * hz)
  const after = keys.filter((k) => k.time_s > end + 1e-3).slice(0, MOST_KEYS - before.length - many - 2)
  // So much further round each time that to and fro are nearly against one another, and no direction comes twice.
  const GOLDEN = 2.39996
  const swung = Array.from({ length: many }, (_, k): MoveKey => {
    const still = at(keys, from + (k + 1) / (2 * hz))
    return { ...still, x_m: round(still.x_m + by_m * Math.cos(k * GOLDEN)), z_m: round(still.z_m + by_m * Math.sin(k * GOLDEN)) }
  })
  return [...before, at(keys, from), ...swung, at(keys, end), ...after].filter((k) => k.time_s <= LONGEST_S)
}
