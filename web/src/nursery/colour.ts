/** Linear RGB as the colour field writes it, and back. Source of the curve: IEC 61966-2-1. */
export function hexFromLinear(rgb: number[]): string {
  const byte = (c: number) => {
    const s = c <= 0.0031308 ? 12.92 * c : 1.055 * c ** (1 / 2.4) - 0.055
    return Math.round(Math.min(1, Math.max(0, s)) * 255)
      .toString(16)
      .padStart(2, '0')
  }
  return `#${rgb.map(byte).join('')}`
}

export function linearFromHex(hex: string): number[] {
  return [1, 3, 5].map((at) => {
    const s = parseInt(hex.slice(at, at + 2), 16) / 255
    const c = s <= 0.04045 ? s / 12.92 : ((s + 0.055) / 1.055) ** 2.4
    return Number(c.toFixed(5))
  })
}
