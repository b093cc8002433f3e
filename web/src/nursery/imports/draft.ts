import type { Kind, Schemas, SpeciesSpec } from '../../api/client'
import type { ReadMesh } from '../../api/meshFile'
import { freeId } from '../search'

export type Plan = Schemas['Imported']
export type Measured = Schemas['Measured']

/** Heavier than this a form is worth simplifying. */
export const HEAVY = 40_000
export const LIGHTER = 20_000

/** What is known of a species before it is taken. */
export interface Draft {
  name: string
  kind: Kind
  plan: Plan
}

/** Where a draft begins: as the file has it, its foot on the base point. */
export function firstDraft({ name, view }: ReadMesh): Draft {
  const plain = name.replace(/\.[^.]*$/, '').replace(/[_-]+/g, ' ').trim()
  return {
    name: plain.slice(0, 80) || 'Imported',
    // What is not closed is more likely leaves than stone.
    kind: view.inspection.findings.some((f) => f.finding === 'open') ? 'shrub' : 'rock',
    plan: {
      blob: view.blob, name, placing: { unit_m: 1, up: 'y', recentre: true, turn_over: false, mend: false }, parts: [], each: false,
      tall_m: 1, wide_m: 1, scale: 1, soft: 0, stem_mm: 0, most_triangles: 1_000_000, thin: false,
    },
  }
}

const GREY: [number, number, number] = [0.3, 0.3, 0.3]

/** The species a draft becomes, with an id that nothing has yet. */
export function speciesOf({ name, kind, plan }: Draft, measured: Measured, all: { id: string }[]): SpeciesSpec {
  const stem = name.toLowerCase().normalize('NFKD').replace(/[^a-z0-9]+/g, '-').replace(/^-+|-+$/g, '').slice(0, 50) || 'imported'
  const id = all.some((s) => s.id === stem) ? freeId(all, stem) : stem
  return {
    id, name: name.trim() || 'Imported', plural: name.trim() || 'Imported', kind, tags: ['imported'], seed: 1, forms: measured.forms,
    plan: { make: 'imported', ...plan, tall_m: measured.tall_m, wide_m: measured.wide_m },
    colours: { root: GREY, leaf: GREY, tip: GREY, old: GREY, wood: GREY, flower: GREY, eye: GREY, spread: 0, through: 0.6 },
    year: { evergreen: 1, sheds: false, flowers_at: 1, flowers_for: 0.5 },
  }
}

/** What is odd about a species that is about to be taken, with a fix where there is one. */
export function oddities(draft: Draft, measured: Measured): { id: string; text: string; fix?: { name: string; change: Partial<Plan> } }[] {
  const { plan, kind } = draft
  const out: ReturnType<typeof oddities> = []
  const heaviest = measured.triangles[0]
  if (heaviest > HEAVY)
    out.push({
      id: 'heavy',
      text: `${heaviest.toLocaleString('en')} triangles a plant is heavy; light and far plants have ${measured.triangles[1].toLocaleString('en')} and ${measured.triangles[2].toLocaleString('en')}.`,
      fix: { name: `Simplify to ${LIGHTER.toLocaleString('en')}`, change: { most_triangles: LIGHTER } },
    })
  if (measured.base_off_m > 0.05 * Math.max(measured.tall_m, measured.wide_m))
    out.push({
      id: 'base',
      text: 'Its base point lies beside its foot; it would stand off its place.',
      fix: { name: 'Stand it there', change: { placing: { ...plan.placing, recentre: true } } },
    })
  if (measured.looks_thin && !plan.thin)
    out.push({ id: 'thin', text: 'The file says that faces are seen from both sides, as leaves are.', fix: { name: 'They are leaves', change: { thin: true } } })
  const height = measured.tall_m * (plan.scale ?? 1)
  const tallest = { grass: 5, herb: 4, fern: 5, cushion: 2, shrub: 12, broadleaf: 60, conifer: 110, rock: 200, debris: 40, floating: 2 }[kind]
  if (height > tallest) out.push({ id: 'tall', text: `${height.toFixed(1)} m is very high for its kind. Its unit may be smaller, or its height can be typed.` })
  if (height < 0.002 && measured.wide_m * (plan.scale ?? 1) < 0.005) out.push({ id: 'small', text: 'It is smaller than half a centimetre. Its unit may be larger, or its height can be typed.' })
  if (measured.left_out.length > 0) out.push({ id: 'left', text: `Not kept: ${measured.left_out.join(', ')}.` })
  return out
}
