import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { decodePlants } from './buffers'

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
  })

  it('are refused when they are something else or end early', () => {
    const other = bytes.slice(0)
    new Uint8Array(other)[0] = 88
    expect(() => decodePlants(other)).toThrow('RKPL')
    expect(() => decodePlants(bytes.slice(0, bytes.byteLength - 8))).toThrow('ends early')
  })
})
