import type { Schemas } from '../api/client'

export type Scale = Schemas['Scale']

/*
 * Colours along a scale, seventeen steps each with straight pieces between. Read off the tables of matplotlib 3.11: cividis
 * (Nunez, Anderton & Renslow 2018), twilight, BrBG (Brewer).
 */
const STEPS: Record<Scale, string> = {
  rising: '00224e 002e6a 1a386f 32436d 434e6c 535a6d 61656f 6f7073 7d7c78 8c8878 9b9476 aba072 bcae6c cdbb63 dec958 f0d846 fee838',
  round: 'e2d9e2 c4ced4 95b5c7 7297c1 6276ba 5e51ad 592a8f 45135c 2f1436 4a1342 741e4f 983550 b25652 c27c63 cca389 d8c7be e2d9e2',
  about_zero: '543005 774508 995d13 b97b29 cfa256 e2c787 f1dfb3 f6edd7 f4f5f5 d7eeeb b4e2db 87d0c5 58b0a7 2d8f87 0c7169 01554b 003c30',
}

const hexes = (scale: Scale) => STEPS[scale].split(' ')

/** The scale as a CSS gradient from left to right. */
export const rampCss = (scale: Scale) => `linear-gradient(to right, ${hexes(scale).map((h) => `#${h}`).join(', ')})`

/** The colour at a share of the scale, 0 to 1, as sRGB bytes. */
export function rampAt(scale: Scale, t: number): [number, number, number] {
  const steps = hexes(scale)
  const at = Math.min(1, Math.max(0, t)) * (steps.length - 1)
  const i = Math.min(Math.floor(at), steps.length - 2)
  const channel = (hex: string, c: number) => parseInt(hex.slice(c * 2, c * 2 + 2), 16)
  return [0, 1, 2].map((c) => {
    const [a, b] = [channel(steps[i], c), channel(steps[i + 1], c)]
    return Math.round(a + (b - a) * (at - i))
  }) as [number, number, number]
}
