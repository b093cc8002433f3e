import type { Layer, Schemas } from '../api/client'
import { useScene } from '../state/scene'

type Pattern = Schemas['Pattern']

export const PATTERNS: { value: Pattern; name: string; hint: string }[] = [
  { value: 'even', name: 'Evenly spread', hint: 'No two much nearer than the rest' },
  { value: 'random', name: 'At random', hint: 'Each place as likely as any other' },
  { value: 'clumped', name: 'In clumps', hint: 'Groups of plants that lie at random' },
  { value: 'rows', name: 'Rows', hint: 'Straight rows over the plan' },
  { value: 'along', name: 'Along a line', hint: 'Rows beside an outline or a track' },
  { value: 'vertices', name: 'Corners', hint: 'A plant at each corner of a mesh, for layouts made elsewhere' },
  { value: 'faces', name: 'Faces', hint: 'A plant in the middle of each face' },
]

export const ROWS: Schemas['Rows'] = { between_m: 1, along_m: 0.5, jitter: 0.2, turn_deg: 0, staggered: false, count: 2, offset_m: 0.5 }

/** The amount that fills rows: one plant to every place. */
export const filling = (rows: Schemas['Rows']): Layer['amount'] => ({ unit: 'per_m2', value: Number(Math.min(1000, 1 / (rows.between_m * rows.along_m)).toPrecision(6)) })

/** Changes rows; the amount goes along, so that no place stays empty. */
export function changeRows(layer: Layer, part: Partial<Schemas['Rows']>, gesture?: string) {
  const rows = { ...ROWS, ...layer.rows, ...part }
  const { run } = useScene.getState()
  const edits: Schemas['LayerEdit'][] = [{ set: 'rows', value: rows }]
  if ('between_m' in part || 'along_m' in part) edits.push({ set: 'amount', value: filling(rows) })
  run({ do: 'all', commands: edits.map((edit) => ({ do: 'edit_layer', id: layer.id, edit })) }, gesture, gesture && `${layer.id} rows`)
}

/** Another pattern. What is laid out begins full; a line is the first there is. */
export function choosePattern(layer: Layer, pattern: Pattern) {
  const { run, scene } = useScene.getState()
  const edits: Schemas['LayerEdit'][] = [{ set: 'pattern', value: pattern }]
  const outlines = scene?.document.outlines ?? []
  const rows = { ...ROWS, ...layer.rows }
  if (pattern === 'along' && !outlines.some((o) => o.id === rows.line)) {
    const line = outlines.find((o) => o.kind === 'track') ?? outlines[0]
    edits.push({ set: 'rows', value: { ...rows, line: line?.id } })
  }
  if (pattern === 'rows' || pattern === 'along') edits.push({ set: 'amount', value: filling(rows) })
  if (pattern === 'vertices' || pattern === 'faces') edits.push({ set: 'amount', value: { unit: 'per_m2', value: 1000 } })
  run({ do: 'all', commands: edits.map((edit) => ({ do: 'edit_layer', id: layer.id, edit })) })
}
