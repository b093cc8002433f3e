/*
 * Numbers as people type them: with units and sums. `2.5m`, `30 cm`, `1/3`, `12+4`, `-0,5`.
 */

const LENGTHS: Record<string, number> = { mm: 0.001, cm: 0.01, m: 1, km: 1000 }

/** The number meant, in the field's own unit; null when it cannot be read. */
export function parseNumber(text: string, unit = ''): number | null {
  let source = text.trim().replaceAll('\u2212', '-').replaceAll(',', '.').replaceAll('\u202f', '')
  if (source === '' || /\d\s+\d/.test(source)) return null
  const own = LENGTHS[unit]
  source = source.replace(/(\d|\.)\s*(mm|cm|km|m)\b(?!²)/g, (_, digit: string, u: string) =>
    own ? `${digit}*${LENGTHS[u] / own}` : digit,
  )
  source = source.replace(/\s*(°|deg|%|×|x|times|per m²|\/m²|per m2|px)\s*$/i, '')
  try {
    const value = new Sum(source).all()
    return Number.isFinite(value) ? value : null
  } catch {
    return null
  }
}

/** Sums by the usual rules: brackets, then * and /, then + and -. */
class Sum {
  private at = 0
  private readonly text: string

  constructor(text: string) {
    this.text = text.replace(/\s+/g, '')
  }

  all(): number {
    const value = this.terms()
    if (this.at !== this.text.length) throw new Error('left over')
    return value
  }

  private terms(): number {
    let value = this.factors()
    for (;;) {
      if (this.eat('+')) value += this.factors()
      else if (this.eat('-')) value -= this.factors()
      else return value
    }
  }

  private factors(): number {
    let value = this.atom()
    for (;;) {
      if (this.eat('*')) value *= this.atom()
      else if (this.eat('/')) value /= this.atom()
      else return value
    }
  }

  private atom(): number {
    if (this.eat('-')) return -this.atom()
    if (this.eat('+')) return this.atom()
    if (this.eat('(')) {
      const value = this.terms()
      if (!this.eat(')')) throw new Error('open bracket')
      return value
    }
    const found = /^\d*\.?\d+(e[+-]?\d+)?|^\d+\.?/i.exec(this.text.slice(this.at))
    if (!found) throw new Error('no number')
    this.at += found[0].length
    return Number(found[0])
  }

  private eat(c: string): boolean {
    if (this.text[this.at] !== c) return false
    this.at += 1
    return true
  }
}

/** At most `digits` decimals, none when they are zero, with a true minus. */
export function showNumber(value: number, digits = 2): string {
  const text = value.toFixed(digits)
  const short = text.includes('.') ? text.replace(/\.?0+$/, '') : text
  return (short === '-0' ? '0' : short).replace('-', '\u2212')
}

/** Whole numbers with thin spaces between thousands. */
export function showCount(value: number): string {
  return Math.round(value).toString().replace(/\B(?=(\d{3})+$)/g, '\u202f')
}

/** A large number in words that fit its size. */
export function showMany(count: number): string {
  if (count < 10_000) return showCount(count)
  if (count < 1e6) return `${showCount(count / 1000)} thousand`
  return `${showNumber(count / 1e6, count < 1e7 ? 1 : 0)} million`
}

export const showTriangles = (count: number) => `${showMany(count)} triangles`
