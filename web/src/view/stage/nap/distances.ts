/** Side of a square of the plan that is asked for at once, metres: as `rookery-core/src/nap/mod.rs` has all of these. */
export const TILE_M = 16
const WHOLE_M = 13
export const REACH_M = 40
/** Nearer than these it is drawn finely, and lightly. */
const DETAIL_M = [4, 12]

/** Size of a tuft of a rank, 0 to 1, at a distance from the eye against its own; 0 where it is left out. */
export function sizeAt(rank: number, away: number): number {
  const t = Math.min(Math.max((REACH_M - away) / (REACH_M - WHOLE_M), 0), 1)
  return Math.min(Math.max((t * t - rank) * 8, 0), 1)
}

/** Which of the three details it has there, the finest first. */
export const detailAt = (away: number) => (away < DETAIL_M[0] ? 0 : away < DETAIL_M[1] ? 1 : 2)

/** Squares within reach of a point of the plan. */
export function tilesAbout(eastM: number, southM: number): [number, number][] {
  const out: [number, number][] = []
  const index = (v: number) => Math.floor(v / TILE_M)
  const off = (v: number, i: number) => v - Math.min(Math.max(v, i * TILE_M), (i + 1) * TILE_M)
  for (let z = index(southM - REACH_M); z <= index(southM + REACH_M); z++)
    for (let x = index(eastM - REACH_M); x <= index(eastM + REACH_M); x++) if (Math.hypot(off(eastM, x), off(southM, z)) < REACH_M) out.push([x, z])
  return out
}
