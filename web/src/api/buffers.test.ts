import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { bySpecies, decodePlants } from './buffers'

// Written by the one encoder: crates/rookery-formats/tests/view_buffers.rs compares it with the same file.
const sample = readFileSync(new URL('./plants.sample.bin', import.meta.url))
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
})
