import { expect, test } from 'vitest'
import { decodeSoils } from '../../api/buffers'
import { laySoils, soilUniforms } from './soils'

/** A buffer as `encode_soils` of rookery-formats writes it. */
function buffer(head: object, texels: number[]): ArrayBuffer {
  const json = new TextEncoder().encode(JSON.stringify(head))
  const start = (8 + json.length + 3) & ~3
  const out = new Uint8Array(start + texels.length)
  out.set(new TextEncoder().encode('RKSO'))
  new DataView(out.buffer).setUint32(4, json.length, true)
  out.set(json, 8)
  out.set(texels, start)
  return out.buffer
}

test('soils are laid where they lie, and taken away where nothing is laid', () => {
  const uniforms = soilUniforms()
  const soils = decodeSoils(buffer({ first: [-20, 4], size_m: [40, 8], samples: [2, 1] }, [10, 20, 30, 255, 0, 0, 0, 0, 7, 8, 9, 10, 0, 0, 0, 0]))
  laySoils(uniforms, soils)
  expect(uniforms.uSoilsIn.value).toBe(1)
  expect(uniforms.uSoilsAt.value.toArray()).toEqual([-20, 4, 40, 8])
  expect(Array.from((uniforms.uSoils.value!.image as { data: Uint8Array }).data)).toEqual([10, 20, 30, 255, 0, 0, 0, 0])
  expect(Array.from((uniforms.uSoilEarths.value!.image as { data: Uint8Array }).data)).toEqual([7, 8, 9, 10, 0, 0, 0, 0])
  laySoils(uniforms, decodeSoils(buffer({ first: [0, 0], size_m: [0, 0], samples: [0, 0] }, [])))
  expect([uniforms.uSoilsIn.value, uniforms.uSoils.value, uniforms.uSoilEarths.value]).toEqual([0, null, null])
})
