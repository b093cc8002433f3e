import type { Schemas } from '../api/client'

export type PatchOp = Schemas['PatchOp']

/** Carries out a JSON Patch (RFC 6902) on a copy. What it does not touch stays the same object, so that nothing else is drawn anew. */
export function applyPatch<T>(target: T, patch: PatchOp[]): T {
  return patch.reduce((now, op) => at(now, steps(op.path), op) as T, target)
}

const steps = (path: string) => path.split('/').slice(1).map((s) => s.replaceAll('~1', '/').replaceAll('~0', '~'))

function at(here: unknown, [step, ...rest]: string[], op: PatchOp): unknown {
  if (typeof here !== 'object' || here === null) throw new Error(`the patch names what is not there: ${op.path}`)
  if (Array.isArray(here)) {
    const place = Number(step)
    const list = [...here]
    if (!(place >= 0 && place <= list.length)) throw new Error(`the patch names what is not there: ${op.path}`)
    if (rest.length > 0) list[place] = at(list[place], rest, op)
    else if (op.op === 'add') list.splice(place, 0, op.value)
    else if (op.op === 'remove') list.splice(place, 1)
    else list[place] = op.value
    return list
  }
  const fields: Record<string, unknown> = { ...here }
  if (rest.length > 0) fields[step] = at(fields[step], rest, op)
  else if (op.op === 'remove') delete fields[step]
  else fields[step] = op.value
  return fields
}
