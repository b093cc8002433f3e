/** Height of the land at a point of the plan, metres; null beside it. */
export type HeightAt = (x: number, z: number) => number | null

/** How finely a hollow is looked at, metres. */
const STEP = 0.5
/** A hollow that reaches farther than this is no pool, metres. */
const FARTHEST = 60
/** Depth that is dug where there is no hollow, metres. */
const DUG = 0.8

export interface Hollow {
  height_m: number
  x_m: number
  z_m: number
  width_m: number
  depth_m: number
}

/** The box about the water that would stand at a level around a point; null where it would run out or there is none. */
export function hollow(heightAt: HeightAt, x: number, z: number, level: number): Hollow | null {
  const most = Math.round(FARTHEST / STEP)
  const wet = new Set<number>()
  const key = (i: number, k: number) => (i + most) * (2 * most + 1) + k + most
  const next: [number, number][] = [[0, 0]]
  const box = { west: 0, east: 0, north: 0, south: 0 }
  while (next.length > 0) {
    const [i, k] = next.pop()!
    if (wet.has(key(i, k))) continue
    const height = heightAt(x + i * STEP, z + k * STEP)
    if (height !== null && height >= level) continue
    if (height === null || Math.abs(i) >= most || Math.abs(k) >= most) return null
    wet.add(key(i, k))
    box.west = Math.min(box.west, i)
    box.east = Math.max(box.east, i)
    box.north = Math.min(box.north, k)
    box.south = Math.max(box.south, k)
    next.push([i + 1, k], [i - 1, k], [i, k + 1], [i, k - 1])
  }
  if (wet.size === 0) return null
  // Its edge comes to lie within the bank all around.
  const [across, along] = [box.east - box.west + 2, box.south - box.north + 2]
  return {
    height_m: level,
    x_m: x + ((box.west + box.east) / 2) * STEP,
    z_m: z + ((box.north + box.south) / 2) * STEP,
    width_m: across * STEP,
    depth_m: along * STEP,
  }
}

/** The fullest of a few pools that the land holds about a point; null where it holds none. */
export function fitted(heightAt: HeightAt, x: number, z: number): Hollow | null {
  const floor = heightAt(x, z)
  if (floor === null) return null
  for (const depth of [1.2, 0.8, 0.5, 0.3]) {
    const found = hollow(heightAt, x, z, floor + depth)
    if (found) return found
  }
  return null
}

/** A level under the lowest of the rim, so that nothing overhangs, and how far the land is lowered to hold a round pool there. */
export function dug(heightAt: HeightAt, x: number, z: number, radius: number): { height_m: number; lower_m: number } | null {
  const around = (share: number) =>
    Array.from({ length: 48 }, (_, i) => heightAt(x + Math.cos((i / 24) * Math.PI) * radius * share, z + Math.sin((i / 24) * Math.PI) * radius * share))
  const rim = around(1)
  const inside = [heightAt(x, z), ...around(0.35), ...around(0.6)]
  if ([...rim, ...inside].some((h) => h === null)) return null
  const height_m = Math.min(...(rim as number[])) - 0.05
  return { height_m, lower_m: Math.max(...(inside as number[])) - height_m + DUG }
}
