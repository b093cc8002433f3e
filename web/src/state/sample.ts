import type { Layer, SceneView } from '../api/client'

const stance = { size: { min: 0.75, max: 1.3 }, turn_deg: { min: 0, max: 360 }, tilt_deg: 6, upright: 0.2, sink_m: 0.02 }
const clear = { by: 'footprint', margin_m: 0, response: 'remove' }
const clearance = { own: clear, others: clear, obstacles: clear, edges: clear, tracks: clear, least: 0.3 }

/** A layer for tests, of marram on gentle slopes. */
export const sampleLayer = (id: number, name: string, part: Partial<Layer> = {}): Layer =>
  ({
    id, name, mix: [{ species: 'marram', share: 1 }], visible: true, locked: false, seed: id, pattern: 'even',
    amount: { unit: 'per_m2', value: 2.4 }, cap: 1_000_000,
    masks: [{ id: 1, quantity: 'slope', enabled: true, response: { start: 0, full_from: 0, full_to: 27, end: 38, inverted: false } }],
    stance, clearance, ...part,
  }) as unknown as Layer

/** A scene for tests; nothing of it is grown. */
export const sampleScene = (layers: Layer[]): SceneView =>
  ({
    id: '00000000-0000-0000-0000-000000000001', seq: 7, undo_steps: 2, redo_steps: 0, ground_key: '', grounds: [], outlines: [], obstacles: [],
    news: null,
    document: { schema: 1, name: 'Kittiwake Head', ground: {}, zones: [], outlines: [], obstacles: [], shots: [], layers },
    layers: layers.map(({ id }) => ({ id, plants_key: '', fits_key: null, yields_to: [], claims_at: id, sentence: [] })),
  }) as unknown as SceneView
