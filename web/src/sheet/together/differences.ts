import type { Layer } from '../../api/client'

export interface Difference {
  setting: string
  now: string
  kept: string
}

const LEFT_OUT = ['id', 'name', 'visible', 'locked']

const words = (v: unknown): string => {
  if (v === undefined || v === null) return 'none'
  if (typeof v === 'number') return String(Number(v.toFixed(4)))
  if (typeof v === 'object') return JSON.stringify(v)
  return String(v).replaceAll('_', ' ')
}

/** What differs between two versions of a layer, setting by setting. */
export function differences(now: Layer, kept: Layer): Difference[] {
  const out: Difference[] = []
  const compare = (path: string, a: unknown, b: unknown) => {
    if (JSON.stringify(a) === JSON.stringify(b)) return
    const both = [a, b].every((v) => v !== null && typeof v === 'object')
    if (both && !(Array.isArray(a) && Array.isArray(b) && a.length !== b.length)) {
      const [x, y] = [a, b] as Record<string, unknown>[]
      for (const key of new Set([...Object.keys(x), ...Object.keys(y)])) {
        if (path || !LEFT_OUT.includes(key)) compare(path ? `${path}, ${title(key, x[key])}` : title(key, x[key]), x[key], y[key])
      }
      return
    }
    if (Array.isArray(a) && Array.isArray(b)) {
      out.push({ setting: path, now: `${a.length}`, kept: `${b.length}` })
      return
    }
    out.push({ setting: path, now: words(a), kept: words(b) })
  }
  compare('', now, kept)
  return out
}

function title(key: string, value: unknown): string {
  const item = value as { quantity?: string; species?: string } | null
  if (/^\d+$/.test(key)) return item?.quantity?.replaceAll('_', ' ') ?? item?.species ?? String(Number(key) + 1)
  return key.replace(/_(m|deg|m2)$/, '').replaceAll('_', ' ')
}
