import type { Schemas, Tally } from './client'

/*
 * The one decoder of the compact buffers. Their layout is written down beside the one encoder, in
 * crates/rookery-formats/src/view. Little-endian; every array starts at a multiple of four bytes.
 */

export interface Histogram {
  low: number
  high: number
  areas_m2: number[]
}

export interface GroundBuffer {
  nx: number
  nz: number
  size_m: [number, number]
  /** Every how many samples of the true ground one is here. */
  step: number
  low_m: number
  high_m: number
  water_m: number | null
  slope: Histogram
  altitude: Histogram
  /** Metres, row by row from the north-west corner. */
  heights: Float32Array
  /** Degrees. */
  slopes: Float32Array
  /** Square roots of reflectance, four bytes a sample. */
  colours: Uint8Array
}

export interface ReadingBuffer {
  nx: number
  nz: number
  reading: Schemas['Reading']
  /** Written behind a number; empty when it has none. */
  unit: string
  scale: Schemas['Scale']
  histogram: Histogram
  /** At the samples of the ground's buffer, row by row. */
  values: Float32Array
}

/** What one mask looks at, at the samples of a ground's buffer or the vertices of a mesh. */
export interface MaskBuffer {
  count: number
  histogram: Histogram
  /** Area where it is unknown, m2. */
  unknown_m2: number
  /** Not a number where it is unknown. */
  values: Float32Array
}

export interface PlantsBuffer {
  /** Names their contents. */
  key?: string
  count: number
  tally: Tally
  /** Metres; three numbers a plant. */
  positions: Float32Array
  sizes: Float32Array
  /** Unit quaternions times 32767; four numbers a plant. */
  rotations: Int16Array
  forms: Uint16Array
  tints: Uint16Array
  /** Place in the layer's mix; none where one species grows. */
  species?: Uint8Array
  /** Height and depth against size, two numbers a plant: 2 to the power of (value - 128) / 64. None where all are as they are. */
  stretches?: Uint8Array
  /** What colours are multiplied with, in 128ths, three numbers a plant. None where no colour is laid over them. */
  colours?: Uint8Array
}

export interface MeshBuffer {
  vertices: number
  triangles: number
  positions: Float32Array
  normals: Float32Array
  /** Reflectance, linear RGB. */
  colours: Float32Array
  /** How much light goes through, 0 to 1. */
  through: Float32Array
  /** Places in pictures, two numbers a vertex; only on imported species with pictures. */
  uvs?: Float32Array
  /** Which picture lies there; -1 for none. */
  pictures?: Float32Array
  indices: Uint32Array
}

/** The pictures of an imported species, all squares of one size. */
export interface PicturesBuffer {
  side_px: number
  pictures: number
  /** sRGB and cover, row by row from the top. */
  rgba: Uint8Array
}

export interface CardBuffer {
  width_px: number
  height_px: number
  /** Half the width of each picture, metres. */
  half_m: number
  low_m: number
  high_m: number
  /** Two pictures, the one from +Z first; square roots of reflectance, and cover. */
  colours: Uint8Array
  /** Two pictures; -1 to 1 as 0 to 255. */
  normals: Uint8Array
}

export interface MeshGroundBuffer {
  vertices: number
  triangles: number
  low_m: [number, number, number]
  high_m: [number, number, number]
  area_m2: number
  /** Names of its face groups. */
  groups: string[]
  slope: Histogram
  altitude: Histogram
  /** Metres, in the ground's own frame. */
  positions: Float32Array
  normals: Float32Array
  /** Square roots of reflectance, four bytes a vertex. */
  colours: Uint8Array
  /** Degrees, 0 to 180. */
  slopes: Float32Array
  /** Metres. */
  altitudes: Float32Array
  indices: Uint32Array
}

class Reader {
  private at: number
  readonly head: Record<string, unknown>
  private readonly buffer: ArrayBuffer

  constructor(buffer: ArrayBuffer, letters: string) {
    this.buffer = buffer
    const found = new TextDecoder().decode(new Uint8Array(buffer, 0, 4))
    if (found !== letters) throw new Error(`expected a ${letters} buffer, found ${found}`)
    const length = new DataView(buffer).getUint32(4, true)
    this.head = JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 8, length)))
    this.at = this.aligned(8 + length)
  }

  private aligned(at: number) {
    return (at + 3) & ~3
  }

  private take(bytes: number): number {
    const at = this.at
    if (at + bytes > this.buffer.byteLength) throw new Error('the buffer ends early')
    this.at = this.aligned(at + bytes)
    return at
  }

  f32 = (n: number) => new Float32Array(this.buffer, this.take(n * 4), n)
  i8 = (n: number) => new Int8Array(this.buffer, this.take(n), n)
  u32 = (n: number) => new Uint32Array(this.buffer, this.take(n * 4), n)
  i16 = (n: number) => new Int16Array(this.buffer, this.take(n * 2), n)
  u16 = (n: number) => new Uint16Array(this.buffer, this.take(n * 2), n)
  u8 = (n: number) => new Uint8Array(this.buffer, this.take(n), n)
}

export function decodeGround(buffer: ArrayBuffer): GroundBuffer {
  const reader = new Reader(buffer, 'RKGR')
  const head = reader.head as unknown as GroundBuffer
  const n = head.nx * head.nz
  return { ...head, heights: reader.f32(n), slopes: reader.f32(n), colours: reader.u8(n * 4) }
}

/** A ground beside the land: a terrain or a mesh, told by its first letters. */
export function decodePlaced(buffer: ArrayBuffer): { kind: 'terrain'; data: GroundBuffer } | { kind: 'mesh'; data: MeshGroundBuffer } {
  if (new Uint8Array(buffer, 2, 1)[0] === 'G'.charCodeAt(0)) return { kind: 'terrain', data: decodeGround(buffer) }
  const reader = new Reader(buffer, 'RKMG')
  const head = reader.head as unknown as MeshGroundBuffer
  const v = head.vertices
  const data = {
    ...head,
    positions: reader.f32(v * 3), normals: reader.f32(v * 3), colours: reader.u8(v * 4),
    slopes: reader.f32(v), altitudes: reader.f32(v), indices: reader.u32(head.triangles * 3),
  }
  return { kind: 'mesh', data }
}

export function decodeReading(buffer: ArrayBuffer): ReadingBuffer {
  const reader = new Reader(buffer, 'RKRD')
  const head = reader.head as unknown as ReadingBuffer
  return { ...head, values: reader.f32(head.nx * head.nz) }
}

export function decodeMask(buffer: ArrayBuffer): MaskBuffer {
  const reader = new Reader(buffer, 'RKMK')
  const head = reader.head as unknown as MaskBuffer
  return { ...head, values: reader.f32(head.count) }
}

export function decodePlants(buffer: ArrayBuffer): PlantsBuffer {
  const reader = new Reader(buffer, 'RKPL')
  const head = reader.head as unknown as PlantsHead
  return { count: head.count, tally: head.tally, ...columns(reader, head.count, head) }
}

/** Plants of a layer that have forms of their own. */
export interface FitsBuffer {
  /** Names the plants these are among. */
  plants: string
  /** How fine the forms are, by its place in `DETAILS`. */
  detail: number
  count: number
  vertices: number
  bent: number
  trimmed: number
  /** Of those bent, made smaller as well. */
  smaller: number
  /** Left out because nothing helped. */
  gone: number
  /** Not fitted because there are too many. */
  left: number
  /** Among the plants of its species. */
  places: Uint32Array
  /** Vertices of each; none where it is left out. */
  lengths: Uint32Array
  /** Place in the layer's mix. */
  species: Uint8Array
  /** Metres from the plant's base point. */
  positions: Float32Array
  /** Unit times 127, with a zero behind each. */
  normals: Int8Array
}

export function decodeFits(buffer: ArrayBuffer): FitsBuffer {
  const reader = new Reader(buffer, 'RKFT')
  const head = reader.head as unknown as FitsBuffer
  return {
    ...head, places: reader.u32(head.count), lengths: reader.u32(head.count), species: reader.u8(head.count),
    positions: reader.f32(head.vertices * 3), normals: reader.i8(head.vertices * 4),
  }
}

function columns(reader: Reader, n: number, { mixed, stretched, coloured }: PlantsHead): Omit<PlantsBuffer, 'count' | 'tally'> {
  return {
    positions: reader.f32(n * 3),
    sizes: reader.f32(n),
    rotations: reader.i16(n * 4),
    forms: reader.u16(n),
    tints: reader.u16(n),
    ...(mixed && { species: reader.u8(n) }),
    ...(stretched && { stretches: reader.u8(n * 2) }),
    ...(coloured && { colours: reader.u8(n * 3) }),
  }
}

interface ChangesHead extends PlantsHead {
  /** Names the plants of before. */
  since: string
  runs: number
  added: number
}

/** What plants have that say nothing of it. */
const plain = (length: number, value: number) => new Uint8Array(length).fill(value)

/** Plants by the name of their contents. */
export type KnownPlants = Map<string, PlantsBuffer>

interface Numbers<T> {
  readonly BYTES_PER_ELEMENT: number
  new (buffer: ArrayBuffer, at: number, length: number): T
}

/** Room for so many numbers: where others were that nobody looks at any more, if they had as much. Fresh room has some to spare. */
function room<T extends ArrayBufferView>(of: Numbers<T>, length: number, old: T | undefined): T {
  const bytes = length * of.BYTES_PER_ELEMENT
  const again = old && old.byteOffset === 0 && old.buffer.byteLength >= bytes
  return new of(again ? (old.buffer as ArrayBuffer) : new ArrayBuffer(Math.ceil((length * 1.02 + 1024) / 4) * 4 * of.BYTES_PER_ELEMENT), 0, length)
}

/**
 * All plants, or those of before with what changed; with the name of the ones they were made from. Plants in `spare` are written over:
 * nobody may look at them any more.
 */
export function decodePlantsOrChanges(buffer: ArrayBuffer, known: KnownPlants, spare: PlantsBuffer | null = null): { plants: PlantsBuffer; since: string | null } {
  if (new Uint8Array(buffer, 3, 1)[0] === 'L'.charCodeAt(0)) return { plants: decodePlants(buffer), since: null }
  const reader = new Reader(buffer, 'RKPD')
  const head = reader.head as unknown as ChangesHead
  const before = known.get(head.since)
  if (!before || before === spare) throw new Error('the plants of before are not there any more')
  const runs = reader.u32(head.runs * 3)
  const fresh = columns(reader, head.added, head)
  const join = <T extends Float32Array | Int16Array | Uint16Array | Uint8Array>(old: T, added: T, out: T, width: number): T => {
    let at = 0
    let taken = 0
    for (let i = 0; i < runs.length; i += 3) {
      const [from, kept, grown] = [runs[i] * width, runs[i + 1] * width, runs[i + 2] * width]
      out.set(old.subarray(from, from + kept), at)
      out.set(added.subarray(taken, taken + grown), at + kept)
      at += kept + grown
      taken += grown
    }
    return out
  }
  const n = head.count
  const plants: PlantsBuffer = {
    count: n,
    tally: head.tally,
    positions: join(before.positions, fresh.positions, room(Float32Array, n * 3, spare?.positions), 3),
    sizes: join(before.sizes, fresh.sizes, room(Float32Array, n, spare?.sizes), 1),
    rotations: join(before.rotations, fresh.rotations, room(Int16Array, n * 4, spare?.rotations), 4),
    forms: join(before.forms, fresh.forms, room(Uint16Array, n, spare?.forms), 1),
    tints: join(before.tints, fresh.tints, room(Uint16Array, n, spare?.tints), 1),
    ...(head.mixed && { species: join(before.species ?? plain(before.count, 0), fresh.species!, room(Uint8Array, n, spare?.species), 1) }),
    ...(head.stretched && { stretches: join(before.stretches ?? plain(before.count * 2, 128), fresh.stretches!, room(Uint8Array, n * 2, spare?.stretches), 2) }),
    ...(head.coloured && { colours: join(before.colours ?? plain(before.count * 3, 128), fresh.colours!, room(Uint8Array, n * 3, spare?.colours), 3) }),
  }
  return { plants, since: head.since }
}

interface PlantsHead {
  count: number
  tally: Tally
  mixed: boolean
  stretched: boolean
  coloured: boolean
}

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

const empty = {
  count: 0, positions: new Float32Array(0), sizes: new Float32Array(0), rotations: new Int16Array(0),
  forms: new Uint16Array(0), tints: new Uint16Array(0),
}

/** All forms of a species: one after the other, each with its length before it; first meshes, then cards, then pictures where there are any. */
export function decodeForms(buffer: ArrayBuffer): { meshes: MeshBuffer[]; cards: CardBuffer[]; pictures: PicturesBuffer | null } {
  const view = new DataView(buffer)
  const meshes: MeshBuffer[] = []
  const cards: CardBuffer[] = []
  let pictures: PicturesBuffer | null = null
  for (let at = 0; at < buffer.byteLength; ) {
    const length = view.getUint32(at, true)
    const one = buffer.slice(at + 4, at + 4 + length)
    const kind = String.fromCharCode(...new Uint8Array(one, 0, 4))
    if (kind === 'RKCD') cards.push(decodeCard(one))
    else if (kind === 'RKPX') pictures = decodePictures(one)
    else meshes.push(decodeMesh(one))
    at = (at + 4 + length + 3) & ~3
  }
  return { meshes, cards, pictures }
}

export function decodePictures(buffer: ArrayBuffer): PicturesBuffer {
  const reader = new Reader(buffer, 'RKPX')
  const head = reader.head as unknown as PicturesBuffer
  return { ...head, rgba: reader.u8(head.pictures * head.side_px * head.side_px * 4) }
}

export function decodeCard(buffer: ArrayBuffer): CardBuffer {
  const reader = new Reader(buffer, 'RKCD')
  const head = reader.head as unknown as CardBuffer
  const n = head.width_px * head.height_px * 2 * 4
  return { ...head, colours: reader.u8(n), normals: reader.u8(n) }
}

export function decodeMesh(buffer: ArrayBuffer): MeshBuffer {
  const reader = new Reader(buffer, 'RKME')
  const head = reader.head as unknown as MeshBuffer & { skinned: boolean }
  const v = head.vertices * 3
  return {
    vertices: head.vertices,
    triangles: head.triangles,
    positions: reader.f32(v),
    normals: reader.f32(v),
    colours: reader.f32(v),
    through: reader.f32(head.vertices),
    ...(head.skinned && { uvs: reader.f32(head.vertices * 2), pictures: reader.f32(head.vertices) }),
    indices: reader.u32(head.triangles * 3),
  }
}
