import type { Layer, Schemas, Species } from '../api/client'

export type MixPart = Schemas['MixPart']

/** The species a layer is known by: the one with the greatest share, the first of several. As `Layer::lead` in the core. */
export function leadOf(layer: Pick<Layer, 'mix'>): string {
  return layer.mix.reduce((best, m) => (m.share > best.share ? m : best), layer.mix[0]).species
}

export const growsIt = (layer: Pick<Layer, 'mix'>, species: string) => layer.mix.some((m) => m.species === species)

/** Each species' part of the whole, 0 to 1. */
export function parts(mix: MixPart[]): number[] {
  const all = mix.reduce((sum, m) => sum + m.share, 0)
  return mix.map((m) => (all > 0 ? m.share / all : 1 / mix.length))
}

/** The same in whole hundredths that add up to a hundred: what is left over goes to those that lost most by rounding. */
export function percents(mix: MixPart[]): number[] {
  const exact = parts(mix).map((p) => p * 100)
  const whole = exact.map(Math.floor)
  const left = 100 - whole.reduce((a, b) => a + b, 0)
  const byLoss = exact.map((_, i) => i).sort((a, b) => exact[b] - whole[b] - (exact[a] - whole[a]) || a - b)
  byLoss.slice(0, Math.max(0, Math.round(left))).forEach((i) => whole[i]++)
  return whole
}

const short = (v: number) => Number(v.toFixed(4))

/** The mix with one species at a part of the whole; the others keep their shares of the rest. */
export function withPart(mix: MixPart[], i: number, part: number): MixPart[] {
  const now = parts(mix)
  const rest = 1 - now[i]
  if (mix.length === 1) return [{ ...mix[0], share: 1 }]
  const wanted = Math.min(0.99, Math.max(0, part))
  return mix.map((m, k) => ({ ...m, share: short(k === i ? wanted : rest > 0 ? (now[k] / rest) * (1 - wanted) : (1 - wanted) / (mix.length - 1)) }))
}

/** The mix with the border between two neighbours moved: `at` is where it lies on a bar from 0 to 1. */
export function withBorder(mix: MixPart[], i: number, at: number): MixPart[] {
  const now = parts(mix)
  const before = now.slice(0, i).reduce((a, b) => a + b, 0)
  const both = now[i] + now[i + 1]
  const own = Math.min(both, Math.max(0, at - before))
  return mix.map((m, k) => ({ ...m, share: short(k === i ? own : k === i + 1 ? both - own : now[k]) }))
}

/** A species more, with as much as the others have on average. */
export const withSpecies = (mix: MixPart[], species: string): MixPart[] => {
  const now = parts(mix)
  const n = mix.length
  return [...mix.map((m, i) => ({ ...m, share: short((now[i] * n) / (n + 1)) })), { species, share: short(1 / (n + 1)) }]
}

/** Triangles of a plant at full detail, over the mix. */
export function meanTriangles(layer: Layer, all: Species[] | undefined): number {
  return parts(layer.mix).reduce((sum, part, i) => sum + part * (all?.find((s) => s.id === layer.mix[i].species)?.triangles[0] ?? 0), 0)
}
