import type { Layer } from '../api/client'

export type Way = NonNullable<Layer['show_as']>

/** How plants may be drawn in the view. */
export const WAYS: { id: Way; name: string; all: string }[] = [
  { id: 'auto', name: 'by size on screen', all: 'Each as it is set' },
  { id: 'full', name: 'every leaf', all: 'Every leaf' },
  { id: 'light', name: 'light mesh', all: 'Light meshes' },
  { id: 'far', name: 'far mesh', all: 'Far meshes' },
  { id: 'card', name: 'card', all: 'Cards' },
  { id: 'hull', name: 'hull', all: 'Hulls' },
  { id: 'box', name: 'box', all: 'Boxes' },
  { id: 'dot', name: 'dot', all: 'Dots' },
  { id: 'stills', name: 'in stills only', all: 'In stills only' },
]

/** A view at rest goes on to its full detail, or stays as it is; or it does without shadows as well. */
export type Rest = 'refined' | 'quick' | 'plain'
