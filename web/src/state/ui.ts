import { create } from 'zustand'
import type { Layer, Mask, Schemas } from '../api/client'
import type { Painting } from '../sheet/masks/painting'
import type { Sculpting } from '../site/sculpting'
import type { Rest, Way } from '../view/ways'
import type { BodyForm, MoverKind } from '../motion/movers/movers'

/** Whether time counts at a station: the wind blows in the view, and there is a timeline. Elsewhere plants stand at rest, to be worked on. */
export const inTime = (station: Station) => station === 'motion' || station === 'shots'

export type Station = 'site' | 'nursery' | 'planting' | 'motion' | 'shots' | 'handoff'
export const STATIONS: { id: Station; name: string; what: string }[] = [
  { id: 'site', name: 'Site', what: 'The ground plants grow on' },
  { id: 'nursery', name: 'Nursery', what: 'Species: plants and rocks to grow' },
  { id: 'planting', name: 'Planting', what: 'Layers of plants and rocks, and where they grow' },
  { id: 'motion', name: 'Motion', what: 'Wind, and how plants sway in it' },
  { id: 'shots', name: 'Shots', what: 'Cameras, light and stills' },
  { id: 'handoff', name: 'Handoff', what: 'Files for other programs' },
]

export type Mode = 'perspective' | 'plan'
export type Reading = Schemas['Reading']
/** A line or a place that is being drawn on the ground. */
export type Drawing =
  | { what: 'section' }
  | { what: 'outline'; kind: Schemas['OutlineKind'] }
  | { what: 'obstacle'; kind: Schemas['Shape']['kind']; shape?: Schemas['Shape']; name?: string }
  | { what: 'mover'; kind: MoverKind }
  | { what: 'mover'; kind: 'mesh'; form: BodyForm }
  | { what: 'course'; of: 'blower' | 'body'; id: number }
export type Theme = 'chalk' | 'dusk'

/** The profile on the left, the sheet on the right. */
export type Side = 'profile' | 'sheet'
/** On a page narrower than this only one side is open at a time, pixels. */
const NARROW = 1100
const narrow = () => globalThis.innerWidth < NARROW

interface UiState {
  station: Station
  layer: number | null
  /** Layers that change along with the chosen one, without it. */
  together: number[]
  /** The one layer that is seen alone. */
  alone: number | null
  /** Versions of layers that were kept, to be gone back to. */
  kept: Record<number, Layer>
  /** Share of the plants that the view draws, above 0 to 1. */
  previewShare: number
  /** How plants of all layers are drawn for now; `auto` leaves each layer as it is set. */
  allAs: Way
  /** The species that is looked at in the nursery. */
  species: string | null
  /** A second one beside it. */
  beside: string | null
  /** What the nursery shows. */
  shelf: 'species' | 'communities'
  shot: number | null
  mode: Mode
  contours: boolean
  /** The mean wind as lines over the land, at Motion. */
  windShown: boolean
  theme: Theme
  rest: Rest
  drawer: 'closed' | 'section' | 'account' | 'notes'
  /** Where the ground is cut, x and z in metres; null until the drawer is opened. */
  section: { from: [number, number]; to: [number, number]; width_m: number } | null
  searching: boolean
  /** A mask laid over the ground while its curve is dragged. */
  maskShown: { layer: number; mask: number; pinned?: boolean } | null
  /** Plants that were found, pinned in the view. */
  pins: { name: string; places: [number, number, number][] } | null
  /** The brush in hand. */
  painting: Painting | null
  /** Masks taken along from a layer. */
  copiedMasks: Mask[]
  /** The part of the sheet that a click in the sentence leads to; counted so that the same click works twice. */
  focus: { setting: string; count: number } | null
  probing: boolean
  /** Whether layers are drawn in their key colours. */
  keyed: boolean
  /** The tool in hand for sculpting the ground. */
  sculpting: Sculpting | null
  drawing: Drawing | null
  /** What is taken hold of on the site; its handles are shown. */
  chosen: { what: 'outline' | 'obstacle' | 'ground' | 'water' | 'blower' | 'body'; id: number } | null
  /** A quantity of the ground laid over it. */
  reading: Reading | null
  /** Whether plants stay in sight while the ground is read. */
  readWithPlants: boolean
  /** Groups of layers that are folded in the profile. */
  tucked: string[]
  /** Which sides of the page are folded to a rail. */
  folded: Record<Side, boolean>
  /** Whether the card of keys lies over the page. */
  keys: boolean
  /** Two stills beside each other. */
  compared: { a: string; b: string | null } | null
  set(change: Partial<UiState>): void
  fold(side: Side): void
  unfold(side: Side): void
  look(setting: string): void
}

const stored = (key: string) => {
  try {
    return localStorage.getItem(key)
  } catch {
    return null
  }
}

const keep = (key: string, value: string) => {
  try {
    localStorage.setItem(key, value)
  } catch {
    // A browser that keeps nothing starts as it is set by itself each time.
  }
}

/** How a view rests: as an address asks, or as it was last. */
function rests(): Rest {
  const asked = new URLSearchParams(globalThis.location?.search).get('rest')
  if (asked) keep('rookery-rest', asked)
  const found = asked ?? stored('rookery-rest')
  return found === 'quick' || found === 'plain' ? found : 'refined'
}

export function setRest(rest: Rest) {
  keep('rookery-rest', rest)
  useUi.getState().set({ rest })
}

/** What this person is looking at; not part of the scene. */
export const useUi = create<UiState>((set) => ({
  station: 'planting',
  layer: null,
  together: [],
  alone: null,
  kept: {},
  previewShare: 1,
  allAs: 'auto',
  species: null,
  beside: null,
  shelf: 'species',
  shot: null,
  mode: 'perspective',
  contours: true,
  windShown: false,
  theme: stored('rookery-theme') === 'dusk' ? 'dusk' : 'chalk',
  rest: rests(),
  drawer: 'closed',
  section: null,
  searching: false,
  copiedMasks: [],
  painting: null,
  pins: null,
  maskShown: null,
  focus: null,
  probing: false,
  keyed: false,
  sculpting: null,
  drawing: null,
  chosen: null,
  reading: null,
  readWithPlants: false,
  compared: null,
  folded: { profile: narrow(), sheet: false },
  keys: false,
  tucked: [],
  set: (change) => set(change),
  fold: (side) => set((s) => ({ folded: { ...s.folded, [side]: true } })),
  unfold: (side) => set((s) => ({ folded: narrow() ? { profile: side !== 'profile', sheet: side !== 'sheet' } : { ...s.folded, [side]: false } })),
  look: (setting) => set((s) => ({ focus: { setting, count: (s.focus?.count ?? 0) + 1 } })),
}))

export function applyTheme(theme: Theme) {
  document.documentElement.dataset.theme = theme
  keep('rookery-theme', theme)
}
