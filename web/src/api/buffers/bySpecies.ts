import type { PlantsBuffer } from './plants'

/** The plants of each species of a mix; where one grows, the buffer itself. */
export function bySpecies(plants: PlantsBuffer, mix: number): PlantsBuffer[] {
  const { species } = plants
  if (!species) return Array.from({ length: mix }, (_, k) => (k === 0 ? plants : { ...empty, tally: plants.tally }))
  return Array.from({ length: mix }, (_, k) => {
    let count = 0
    for (const own of species) if (own === k) count++
    const out: PlantsBuffer = {
      key: plants.key,
      count,
      tally: plants.tally,
      carried: runsOf(species, k, plants.carried),
      positions: new Float32Array(count * 3),
      sizes: new Float32Array(count),
      rotations: new Int16Array(count * 4),
      forms: new Uint16Array(count),
      tints: new Uint16Array(count),
      ...(plants.stretches && { stretches: new Uint8Array(count * 2) }),
      ...(plants.colours && { colours: new Uint8Array(count * 3) }),
    }
    for (let i = 0, at = 0; i < plants.count; i++) {
      if (species[i] !== k) continue
      for (let c = 0; c < 3; c++) out.positions[at * 3 + c] = plants.positions[i * 3 + c]
      for (let c = 0; c < 4; c++) out.rotations[at * 4 + c] = plants.rotations[i * 4 + c]
      out.sizes[at] = plants.sizes[i]
      out.forms[at] = plants.forms[i]
      out.tints[at] = plants.tints[i]
      if (out.stretches) for (let c = 0; c < 2; c++) out.stretches[at * 2 + c] = plants.stretches![i * 2 + c]
      if (out.colours) for (let c = 0; c < 3; c++) out.colours[at * 3 + c] = plants.colours![i * 3 + c]
      at++
    }
    return out
  })
}

/** How many of each run are of one species. */
function runsOf(species: Uint8Array, k: number, carried: [number, number][] | undefined): [number, number][] | undefined {
  let at = 0
  return carried?.map(([ground, count]) => {
    let own = 0
    for (const end = at + count; at < end; at++) if (species[at] === k) own++
    return [ground, own]
  })
}

const empty = {
  count: 0, positions: new Float32Array(0), sizes: new Float32Array(0), rotations: new Int16Array(0),
  forms: new Uint16Array(0), tints: new Uint16Array(0),
}
