import type { Command, Document, LayerEdit, Mask, Schemas } from '../api/client'

type Fields = Record<string, unknown>
type Thing = Schemas['Thing']

/** What a drag has set so far: where it began, and which fields it set. */
export interface Drag {
  began?: Document
  set: Map<string, Fields>
}

const isFields = (v: unknown): v is Fields => typeof v === 'object' && v !== null && !Array.isArray(v)
const same = (a: unknown, b: unknown) => a === b || JSON.stringify(a) === JSON.stringify(b)

/** The merge patch (RFC 7396) that leads from one object to another; `null` takes a field out. */
export function between(from: Fields, to: Fields): Fields {
  const patch: Fields = {}
  for (const [field, now] of Object.entries(to)) {
    const was = from[field]
    if (same(was, now)) continue
    if (isFields(was) && isFields(now)) patch[field] = between(was, now)
    else if (now !== undefined && !(was === undefined && now === null)) patch[field] = now
  }
  for (const field of Object.keys(from)) if (from[field] !== null && to[field] === undefined) patch[field] = null
  return patch
}

/** Of a patch only what is in the other one too: what differs from both of two states. */
function common(a: Fields, b: Fields): Fields {
  const out: Fields = {}
  for (const [field, value] of Object.entries(a)) {
    if (!(field in b)) continue
    const other = b[field]
    const inner = isFields(value) && isFields(other) ? common(value, other) : value
    if (!isFields(inner) || Object.keys(inner).length > 0) out[field] = inner
  }
  return out
}

/** The fields of a patch, with the values that a thing has for them. */
function again(set: Fields, whole: unknown): Fields {
  return Object.fromEntries(
    Object.entries(set).map(([field, value]) => {
      const now = isFields(whole) ? whole[field] : undefined
      return [field, isFields(value) && isFields(now) ? again(value, now) : (now ?? null)]
    }),
  )
}

function joined(a: Fields, b: Fields): Fields {
  const out = { ...a }
  for (const [field, value] of Object.entries(b)) {
    const known = out[field]
    out[field] = isFields(known) && isFields(value) ? joined(known, value) : value
  }
  return out
}

/**
 * What a whole value changes, field by field. Within a drag a value may have been made from the thing as it was when the drag began, so
 * a field is meant only where it differs from then and from now, or where the drag has set it before.
 */
function meant(what: Thing, read: (d: Document) => Fields | undefined, whole: Fields, now: Document, drag?: Drag): Fields | null {
  const item = read(now)
  if (!item) return null
  let fields = between(item, whole)
  const began = drag?.began && drag.began !== now ? read(drag.began) : undefined
  if (began) fields = common(fields, between(began, whole))
  const key = JSON.stringify(what)
  const before = drag?.set.get(key)
  if (before) fields = joined(again(before, whole), fields)
  drag?.set.set(key, fields)
  return fields
}

const LISTS = {
  put_outline: ['outline', 'outlines'], put_obstacle: ['obstacle', 'obstacles'], put_ground: ['ground', 'grounds'],
  put_water: ['water', 'waters'], put_zone: ['zone', 'zones'], put_picture: ['picture', 'pictures'], put_species: ['species', 'species'],
  put_earth_pictures: ['earth_pictures', 'earth_pictures'],
} as const

/** Parts of a layer that are changed field by field. */
const PARTS: LayerEdit['set'][] = ['tint', 'rows', 'clumps', 'clearance']

/**
 * Names the fields that a command changes instead of whole values, so that what others change meanwhile stays. None where it changes
 * nothing.
 */
export function narrow(command: Command, now: Document, drag?: Drag): Command | null {
  const change = (what: Thing, read: (d: Document) => Fields | undefined, whole: Fields): Command | null => {
    const fields = meant(what, read, whole, now, drag)
    if (!fields) return command
    return Object.keys(fields).length > 0 ? ({ do: 'change', what, fields } as Command) : null
  }
  switch (command.do) {
    case 'all': {
      const all = command.commands.map((c) => narrow(c, now, drag)).filter((c) => c !== null)
      return all.length > 1 ? { do: 'all', commands: all } : (all[0] ?? null)
    }
    case 'put_outline': case 'put_obstacle': case 'put_ground': case 'put_water': case 'put_zone': case 'put_picture': case 'put_species':
    case 'put_earth_pictures': {
      const [of, list] = LISTS[command.do]
      const { id } = command.value
      const read = (d: Document) => (d[list] as { id: unknown }[] | undefined)?.find((i) => i.id === id) as Fields | undefined
      return change({ of, id } as Thing, read, command.value as unknown as Fields)
    }
    case 'edit_ground': {
      const { edit } = command
      if (edit.set !== 'source' && edit.set !== 'earths') return command
      const read = (d: Document) => d.ground[edit.set] as Fields | undefined
      if (edit.set === 'source' && read(now)?.kind !== edit.value.kind) return command
      if (!read(now)) return command
      const fields = meant({ of: 'land' }, (d) => ({ [edit.set]: read(d) }), { [edit.set]: edit.value }, now, drag)
      return fields && Object.keys(fields).length > 0 ? ({ do: 'change', what: { of: 'land' }, fields } as Command) : null
    }
    case 'edit_layer':
      return layerEdit(command.id, command.edit, command, now, change)
    default:
      return command
  }
}

type Change = (what: Thing, read: (d: Document) => Fields | undefined, whole: Fields) => Command | null

function layerEdit(id: number, edit: LayerEdit, command: Command, now: Document, change: Change): Command | null {
  const layer = (d: Document) => d.layers.find((l) => l.id === id)
  const mask = (m: Mask) => change({ of: 'mask', layer: id, id: m.id }, (d) => layer(d)?.masks.find((o) => o.id === m.id) as Fields | undefined, m as unknown as Fields)
  if (PARTS.includes(edit.set) && 'value' in edit) {
    const own = layer(now) as unknown as Fields | undefined
    if (!own?.[edit.set]) return command
    return change({ of: 'layer', id }, (d) => ({ [edit.set]: (layer(d) as unknown as Fields | undefined)?.[edit.set] }), { [edit.set]: edit.value })
  }
  if (edit.set === 'mask') return mask(edit.value)
  if (edit.set !== 'masks') return command
  const known = layer(now)?.masks ?? []
  const kept = edit.value.filter((m) => known.some((k) => k.id === m.id))
  const stays = known.filter((k) => edit.value.some((m) => m.id === k.id))
  // Another order of many is set as it is.
  if (kept.some((m, i) => m.id !== stays[i]?.id)) return command
  const wrapped = (e: LayerEdit): Command => ({ do: 'edit_layer', id, edit: e })
  const all = [
    ...known.filter((k) => !stays.includes(k)).map((k) => wrapped({ set: 'remove_mask', id: k.id })),
    ...kept.map(mask).filter((c) => c !== null),
    ...edit.value.flatMap((value, place) => (kept.includes(value) ? [] : [wrapped({ set: 'put_mask', value, place })])),
  ]
  return all.length > 1 ? { do: 'all', commands: all } : (all[0] ?? null)
}
