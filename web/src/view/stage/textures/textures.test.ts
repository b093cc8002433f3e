import { expect, test } from 'vitest'
import { decodeTextures } from '../../../api/buffers'
import { SHEETS, lookAtTextures, setTextures, textureUniforms } from './textures'

/** A buffer as `encode_textures` of rookery-formats writes it, with pictures of two by two samples. */
function buffer(): ArrayBuffer {
  const sheets = Array.from({ length: SHEETS }, (_, i) => ({ size_m: 1 + i / 2, shine: i / 20 }))
  const means = Array.from({ length: 5 }, (_, i) => [i / 10, 0.2, 0.3])
  const own = means.map((mean, i) => (i === 2 ? [0.5, 0.4, 0.1] : mean))
  const json = new TextEncoder().encode(JSON.stringify({ side: 2, sheets, means, own, worn: own.map((_, i) => i === 2), amiss: [] }))
  const start = (8 + json.length + 3) & ~3
  const out = new Uint8Array(start + SHEETS * 4 * 8)
  out.set(new TextEncoder().encode('RKTX'))
  new DataView(out.buffer).setUint32(4, json.length, true)
  out.set(json, 8)
  for (let i = start; i < out.length; i++) out[i] = (i - start) % 251
  return out.buffer
}

test('pictures are level and of one tone until they are there', () => {
  const level = (of: { image: { data: unknown } }) => new Set(of.image.data as Uint8Array)
  expect(level(textureUniforms.uSheets.value)).toEqual(new Set([128]))
  expect(level(textureUniforms.uSheetSlopes.value)).toEqual(new Set([128, 0]))
})

test('pictures come with their sizes and the means of the earths, once', () => {
  const textures = decodeTextures(buffer())
  expect(setTextures(textures)).toBe(true)
  const { uSheets, uSheetSlopes, uSheetSizes, uSheetShines, uSheetSide, uEarthMeans, uEarthOwn } = textureUniforms
  expect(uSheetSide.value).toBe(2)
  expect(uSheetSizes.value.flatMap((v) => v.toArray()).slice(0, SHEETS)).toEqual([1, 1.5, 2, 2.5, 3, 3.5, 4, 4.5, 5, 5.5])
  expect(uSheetShines.value[1].toArray()).toEqual([0.2, 0.25, 0.3, 0.35])
  expect([uEarthMeans.value[2].toArray(), uEarthOwn.value[2].toArray()]).toEqual([[0.2, 0.2, 0.3], [0.5, 0.4, 0.1, 1]])
  expect(uEarthMeans.value[3].toArray()).toEqual([0.3, 0.2, 0.3])
  const [colours, slopes] = [uSheets, uSheetSlopes].map((u) => u.value.image as { data: Uint8Array; depth: number })
  expect([colours.depth, colours.data.length, slopes.data.length]).toEqual([SHEETS, SHEETS * 16, SHEETS * 16])
  expect(slopes.data[0]).toBe((SHEETS * 16) % 251)
  // The same again changes nothing: no picture is drawn for it.
  expect(setTextures(textures)).toBe(false)
})

test('what is gathered from many frames looks at smaller parts of a pixel in each', () => {
  setTextures(decodeTextures(buffer()))
  const { uSheetSide } = textureUniforms
  lookAtTextures('parts of pixels')
  // Half as many samples along a side choose a level finer by one.
  expect(uSheetSide.value).toBeLessThanOrEqual(1)
  setTextures(decodeTextures(buffer()))
  expect(uSheetSide.value).toBeLessThanOrEqual(1)
  lookAtTextures('whole pixels')
  expect(uSheetSide.value).toBe(2)
})
