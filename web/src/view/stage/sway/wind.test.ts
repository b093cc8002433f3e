import { expect, test } from 'vitest'
import { WAVES, setMoment, windUniforms } from './wind'

const wave = { along: 0.01, across: -0.02, hz: 0.37, phase: 0.25, amplitude: 0.2, aside: -0.75, swell_hz: 0.004, swell_phase: 0.1 }
const facts = { waves: Array.from({ length: WAVES }, () => wave), heading: [0.6, 0.8], size_m: 12, moving: { blowers: [], bodies: [], grounds: [] } } as Parameters<typeof setMoment>[0]

test('an hour on phases are as exact as at the start', () => {
  for (const time of [0, 3600.5]) {
    setMoment(facts, time)
    const { x, y, z, w } = windUniforms.uWaves.value[5]
    const swell = Math.cos(2 * Math.PI * (wave.swell_hz * time + wave.swell_phase))
    expect([x, y]).toEqual([0.01, -0.02])
    expect(z).toBeCloseTo((((wave.hz * time - wave.phase) % 1) + 1) % 1, 9)
    expect(w).toBeCloseTo((0.2 * (1 + 0.7 * swell)) / Math.sqrt(1.245), 9)
    expect(windUniforms.uSwells.value[5].x).toBeCloseTo(w * -0.75, 9)
  }
  expect(windUniforms.uFrame.value.toArray()).toEqual([0.6, 0.8, 12])
})
