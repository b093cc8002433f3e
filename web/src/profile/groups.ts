import type { Command, Layer } from '../api/client'

export interface Group {
  name: string
  layers: Layer[]
}

/** The groups of a scene, in the order of their first layers. */
export function groupsOf(layers: Layer[]): Group[] {
  const groups: Group[] = []
  for (const layer of layers) {
    if (!layer.group) continue
    const known = groups.find((g) => g.name === layer.group)
    if (known) known.layers.push(layer)
    else groups.push({ name: layer.group, layers: [layer] })
  }
  return groups
}

/** A name that no group has yet. */
export function freshGroup(groups: Group[]): string {
  const taken = (name: string) => groups.some((g) => g.name === name)
  if (!taken('Group')) return 'Group'
  for (let n = 2; ; n++) if (!taken(`Group ${n}`)) return `Group ${n}`
}

/** What shows or hides, locks or unlocks, or renames all of a group in one step; nothing where it is so already. */
export function forAll(group: Group, set: 'visible' | 'locked', value: boolean): Command | null {
  return all(group.layers.filter((l) => l[set] !== value).map((l): Command => ({ do: 'edit_layer', id: l.id, edit: { set, value } })))
}

export function renamed(group: Group, value: string | null): Command | null {
  return all(group.layers.map((l): Command => ({ do: 'edit_layer', id: l.id, edit: { set: 'group', value } })))
}

const all = (commands: Command[]): Command | null => (commands.length === 0 ? null : commands.length === 1 ? commands[0] : { do: 'all', commands })
