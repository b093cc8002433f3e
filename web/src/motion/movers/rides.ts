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

/** One more key at a time, where the ground is between its neighbours; none where one is already. */
export function withKey(keys: MoveKey[], time: number): MoveKey[] {
  const at = round(Math.min(Math.max(time, 0), LONGEST_S))
  if (keys.some((k) => Math.abs(k.time_s - at) < 0.05)) return keys
  const next = keys.findIndex((k) => k.time_s > at)
  const [a, b] = [keys[next < 0 ? keys.length - 1 : Math.max(0, next - 1)], keys[next < 0 ? keys.length - 1 : next]]
  const u = b.time_s > a.time_s ? (at - a.time_s) / (b.time_s - a.time_s) : 0
  const between = (of: (k: MoveKey) => number) => round(of(a) + (of(b) - of(a)) * u)
  const key = { time_s: at, x_m: between((k) => k.x_m), y_m: between((k) => k.y_m), z_m: between((k) => k.z_m), turn_deg: between((k) => k.turn_deg) }
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

/** How long it can be shaken with the keys that are left, seconds. */
export const shakenUpTo = (keys: MoveKey[], { hz }: Shake) => (MOST_KEYS - keys.length - 1) / (2 * hz)

/** Shaken from the last key on, to and fro with a turn of the direction each time, and back to where it was. */
export function shaken(keys: MoveKey[], { by_m, hz, seconds }: Shake): MoveKey[] {
  const from = keys.at(-1) ?? { time_s: 0, ...REST }
  const start = keys.length > 0 ? [] : [from]
  const many = Math.min(Math.max(1, Math.round(seconds * 2 * hz)), MOST_KEYS - keys.length - start.length - 1)
  // So much further round each time that to and fro are nearly against one another, and no direction comes twice.
  const GOLDEN = 2.39996
  const swung = Array.from({ length: many }, (_, k): MoveKey => ({
    ...from, time_s: round(from.time_s + (k + 1) / (2 * hz)), x_m: round(from.x_m + by_m * Math.cos(k * GOLDEN)), z_m: round(from.z_m + by_m * Math.sin(k * GOLDEN)),
  }))
  const end = { ...from, time_s: round(from.time_s + (many + 1) / (2 * hz)) }
  return [...keys, ...start, ...swung, end].filter((k) => k.time_s <= LONGEST_S)
}
