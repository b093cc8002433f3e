import type { Document, PlacedGround } from '../api/client'

/** Sheets of water are grounds from this number on; as in the core. */
const WATERS = 2 ** 30
/** The water that is everywhere. */
export const EVERYWHERE = 2 ** 31 - 1

export interface Place {
  id: number
  name: string
  water?: boolean
}

/** The number a sheet of water has as a ground. */
export const onSheet = (id: number) => WATERS + id

export const isWater = (ground: number) => ground >= WATERS && ground <= EVERYWHERE

/** The waters of a scene, as grounds to grow on. */
export function waters(document: Document): Place[] {
  const sheets = (document.waters ?? []).map((w) => ({ id: onSheet(w.id), name: w.name, water: true }))
  return document.ground.water_m != null && !document.ground.absent ? [{ id: EVERYWHERE, name: 'The water', water: true }, ...sheets] : sheets
}

/** Everything a layer may grow on: the land, grounds beside it, and waters. */
export function places(document: Document): Place[] {
  const land = document.ground.absent ? [] : [{ id: 0, name: 'The land' }]
  return [...land, ...(document.grounds ?? []).map((g) => ({ id: g.id, name: g.name })), ...waters(document)]
}

/** Where a ground stands. */
export type Standing = Pick<PlacedGround, 'id' | 'x_m' | 'y_m' | 'z_m' | 'turn_deg'>

/** Where the grounds beside the land stand, and the waters. */
export function standings(document: Document): Standing[] {
  const sheets = (document.waters ?? []).map(({ id, x_m, z_m, height_m, turn_deg }) => ({ id: onSheet(id), x_m, y_m: height_m, z_m, turn_deg }))
  const everywhere = document.ground.water_m == null ? [] : [{ id: EVERYWHERE, x_m: 0, y_m: document.ground.water_m, z_m: 0, turn_deg: 0 }]
  return [...(document.grounds ?? []), ...sheets, ...everywhere]
}
