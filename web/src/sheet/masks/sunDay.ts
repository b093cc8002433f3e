import type { Schemas } from '../../api/client'

/** The months of a year of 365 days. */
export const MONTHS = [
  { name: 'January', days: 31 },
  { name: 'February', days: 28 },
  { name: 'March', days: 31 },
  { name: 'April', days: 30 },
  { name: 'May', days: 31 },
  { name: 'June', days: 30 },
  { name: 'July', days: 31 },
  { name: 'August', days: 31 },
  { name: 'September', days: 30 },
  { name: 'October', days: 31 },
  { name: 'November', days: 30 },
  { name: 'December', days: 31 },
]

/** The same day in another month, or the last one of it. */
export function inMonth(sun: Schemas['SunDay'], month: number): Schemas['SunDay'] {
  return { ...sun, month, day: Math.min(sun.day, MONTHS[month - 1].days) }
}
