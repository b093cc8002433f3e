import { create } from 'zustand'

interface ClockState {
  /** The moment that is shown, seconds from the start. */
  time: number
  playing: boolean
  loop: boolean
  /** Pictures a second that are drawn while it plays; null before the first second is over. */
  rate: number | null
  set(change: Partial<Omit<ClockState, 'set'>>): void
}

/** The moment that is looked at. It is no part of the scene. */
export const useClock = create<ClockState>((set) => ({ time: 0, playing: false, loop: true, rate: null, set: (change) => set(change) }))

/** The moment after some seconds have passed, and whether it goes on. */
export function after(time: number, passed: number, length: number, loop: boolean): { time: number; playing: boolean } {
  const next = time + passed
  if (next < length) return { time: next, playing: true }
  return loop ? { time: next % length, playing: true } : { time: length, playing: false }
}

/** The moment so many pictures on or back, on the beat of the pictures. */
export function stepped(time: number, pictures: number, rate: number, length: number): number {
  const nth = Math.round(time * rate) + pictures
  return Math.min(Math.max(nth / rate, 0), length)
}
