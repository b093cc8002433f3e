import { expect, test } from 'vitest'
import { LastPlants } from './lastPlants'

/** Plants in a row, one metre apart from `first` on, as the server writes them. */
function whole(count: number, first: number): ArrayBuffer {
  const head = { count, tally: {}, mixed: false, stretched: false, coloured: false }
  return written('RKPL', head, [], Array.from({ length: count }, (_, i) => first + i))
}

/** The first so many of before, then one new plant. */
function changed(since: string, kept: number, x: number): ArrayBuffer {
  const head = { since, runs: 1, added: 1, count: kept + 1, tally: {}, mixed: false, stretched: false, coloured: false }
  return written('RKPD', head, [0, kept, 1], [x])
}

function written(letters: string, head: object, runs: number[], xs: number[]): ArrayBuffer {
  const text = new TextEncoder().encode(JSON.stringify(head))
  const start = (8 + text.length + 3) & ~3
  const even = (bytes: number) => (bytes + 3) & ~3
  const n = xs.length
  const out = new ArrayBuffer(start + runs.length * 4 + n * 12 + n * 4 + n * 8 + even(n * 2) * 2)
  new Uint8Array(out).set(new TextEncoder().encode(letters))
  new DataView(out).setUint32(4, text.length, true)
  new Uint8Array(out, 8).set(text)
  new Uint32Array(out, start, runs.length).set(runs)
  const positions = new Float32Array(out, start + runs.length * 4, n * 3)
  xs.forEach((x, i) => positions.set([x, 0, 0], i * 3))
  return out
}

const places = (p: { positions: Float32Array; count: number }) => Array.from({ length: p.count }, (_, i) => p.positions[i * 3])

test('plants left two steps ago give their memory, and no others change', () => {
  const forgotten: string[] = []
  const last = new LastPlants((key) => forgotten.push(key))
  const all = [last.take('0', whole(6, 0))]
  for (let i = 1; i <= 8; i++) {
    const plants = last.take(String(i), changed(String(i - 1), 5, 100 + i))
    all.push(plants)
    // The view may still show these three.
    expect(places(plants)).toEqual([0, 1, 2, 3, 4, 100 + i])
    expect(places(all[i - 1])[5]).toBe(i === 1 ? 5 : 99 + i)
    if (i > 1) expect(places(all[i - 2])[5]).toBe(i === 2 ? 5 : 98 + i)
  }
  expect(all[8].positions.buffer).toBe(all[4].positions.buffer)
  expect(new Set(all.slice(5).map((p) => p.positions.buffer)).size).toBe(4)
  expect(forgotten).toEqual(['0', '1', '2', '3', '4'])
})

test('a step taken back is at hand, and goes on from there', () => {
  const last = new LastPlants(() => undefined)
  last.take('a', whole(4, 0))
  const b = last.take('b', changed('a', 3, 50))
  const c = last.take('c', changed('b', 2, 60))
  expect(last.names().split(',')).toEqual(['b', 'c'])
  expect(last.again('b')).toBe(b)
  expect(last.again('a')).toBeUndefined()
  const other = last.take('d', changed('b', 4, 70))
  expect([places(b), places(c), places(other)]).toEqual([[0, 1, 2, 50], [0, 1, 60], [0, 1, 2, 50, 70]])
})

test('plants that come again after two others are not forgotten while they come', () => {
  const forgotten: string[] = []
  const last = new LastPlants((key) => forgotten.push(key))
  for (const [key, first] of [['a', 0], ['b', 10], ['c', 20]] as const) last.take(key, whole(3, first))
  expect(places(last.take('a', whole(3, 0)))).toEqual([0, 1, 2])
  expect(forgotten).toEqual([])
})

test('changes of plants that are not there are refused', () => {
  const last = new LastPlants(() => undefined)
  last.take('a', whole(4, 0))
  expect(() => last.take('c', changed('b', 2, 60))).toThrow('not there any more')
})
