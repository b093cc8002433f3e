import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { bySpecies, decodeFits, decodePlants, decodePlantsOrChanges, type PlantsBuffer } from './index'

// Written by the one encoder: crates/rookery-formats/tests/formats/view_buffers.rs compares it with the same file.
const sample = readFileSync(new URL('../plants.sample.bin', import.meta.url))
const bytes = sample.buffer.slice(sample.byteOffset, sample.byteOffset + sample.byteLength) as ArrayBuffer

describe('the plants of a layer', () => {
  it('decode to what was encoded', () => {
    const p = decodePlants(bytes)
    expect(p.count).toBe(3)
    expect(p.tally.placed).toBe(3)
    expect([...p.positions].map((v) => v + 0)).toEqual([0, 0.5, 0, 1, 0.5, -2, 2, 0.5, -4])
    expect([...p.sizes]).toEqual([1, 1.25, 1.5])
    expect(Array.from(p.rotations.subarray(0, 4))).toEqual([0, 19660, 0, 26214])
    expect([...p.forms]).toEqual([0, 1, 2])
    expect([...p.tints]).toEqual([0x1234, 0x1235, 0x1236])
    expect([...p.species!]).toEqual([0, 1, 0])
    expect([...p.stretches!]).toEqual([128, 192, 128, 192, 128, 192])
    expect([...p.colours!]).toEqual([128, 0, 255, 128, 64, 255, 128, 128, 255])
  })

  it('are told apart by their species, in their order', () => {
    const [first, second, none] = bySpecies(decodePlants(bytes), 3)
    expect([first.count, second.count, none.count]).toEqual([2, 1, 0])
    expect([...first.positions].map((v) => v + 0)).toEqual([0, 0.5, 0, 2, 0.5, -4])
    expect([...second.sizes]).toEqual([1.25])
    expect([...first.colours!]).toEqual([128, 0, 255, 128, 128, 255])
  })

  it('are refused when they are something else or end early', () => {
    const other = bytes.slice(0)
    new Uint8Array(other)[0] = 88
    expect(() => decodePlants(other)).toThrow('RKPL')
    expect(() => decodePlants(bytes.slice(0, bytes.byteLength - 8))).toThrow('ends early')
  })

  it('come again from what changed', () => {
    const before = decodePlants(bytes)
    // The first stays, a new one follows, the second goes, the third stays.
    const head = { count: 3, tally: before.tally, mixed: false, stretched: false, coloured: false, since: 'old', runs: 2, added: 1 }
    const old: PlantsBuffer = { ...before, species: undefined, stretches: undefined, colours: undefined }
    const { plants, since } = decodePlantsOrChanges(changes(head, [0, 1, 1, 2, 1, 0], [9, 8, 7], 2.5, [1, 2, 3, 4], 5, 6), new Map([['old', old]]))
    expect(since).toBe('old')
    expect([...plants.positions].map((v) => v + 0)).toEqual([0, 0.5, 0, 9, 8, 7, 2, 0.5, -4])
    expect([...plants.sizes]).toEqual([1, 2.5, 1.5])
    expect([...plants.rotations.subarray(4, 8)]).toEqual([1, 2, 3, 4])
    expect([...plants.forms]).toEqual([0, 5, 2])
    expect([...plants.tints]).toEqual([0x1234, 6, 0x1236])
    expect(() => decodePlantsOrChanges(changes(head, [], [], 0, [], 0, 0), new Map())).toThrow('not there any more')
  })

  it('stay as they are where one with a stretch of its own comes to plain ones', () => {
    const before = decodePlants(bytes)
    const head = { count: 3, tally: before.tally, mixed: false, stretched: true, coloured: false, since: 'old', runs: 2, added: 1 }
    const old: PlantsBuffer = { ...before, species: undefined, stretches: undefined, colours: undefined }
    const { plants } = decodePlantsOrChanges(changes(head, [0, 1, 1, 2, 1, 0], [9, 8, 7], 2.5, [1, 2, 3, 4], 5, 6, [192, 64]), new Map([['old', old]]))
    expect([...plants.stretches!]).toEqual([128, 128, 192, 64, 128, 128])
    expect(plants.colours).toBeUndefined()
  })
})

/** A `RKPD` buffer with one new plant, laid out as the encoder does. */
function changes(head: object, runs: number[], position: number[], size: number, turn: number[], form: number, tint: number, stretch: number[] = []): ArrayBuffer {
  const text = new TextEncoder().encode(JSON.stringify(head))
  const start = (8 + text.length + 3) & ~3
  const out = new ArrayBuffer(start + runs.length * 4 + 12 + 4 + 8 + 4 + 4 + (stretch.length > 0 ? 4 : 0))
  const view = new DataView(out)
  new Uint8Array(out).set(new TextEncoder().encode('RKPD'))
  view.setUint32(4, text.length, true)
  new Uint8Array(out, 8).set(text)
  let at = start
  for (const n of runs) view.setUint32((at += 4) - 4, n, true)
  for (const v of position) view.setFloat32((at += 4) - 4, v, true)
  view.setFloat32(at, size, true)
  for (const [i, q] of turn.entries()) view.setInt16(at + 4 + i * 2, q, true)
  view.setUint16(at + 12, form, true)
  view.setUint16(at + 16, tint, true)
  for (const [i, b] of stretch.entries()) view.setUint8(at + 20 + i, b)
  return out
}

describe('plants with forms of their own', () => {
  const file = readFileSync(new URL('../fits.sample.bin', import.meta.url))
  const fits = decodeFits(file.buffer.slice(file.byteOffset, file.byteOffset + file.byteLength) as ArrayBuffer)

  it('decode to what was encoded', () => {
    expect(fits).toMatchObject({ plants: 'some plants', detail: 1, count: 3, vertices: 4, bent: 1, trimmed: 1, smaller: 1, gone: 1, left: 7 })
    // By their place among the plants of their species.
    expect([...fits.places]).toEqual([0, 0, 1])
    expect([...fits.species]).toEqual([0, 1, 0])
    expect([...fits.lengths]).toEqual([0, 2, 2])
    expect([...fits.positions]).toEqual([1, 0.25, -1, 0, 1, 0, 2, 0.25, -1, 0, 1, 0])
    expect(Array.from(fits.normals.subarray(0, 8)).map((v) => v + 0)).toEqual([127, 0, 0, 0, 0, 0, -127, 0])
  })
})
