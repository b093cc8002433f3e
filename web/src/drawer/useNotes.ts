import type { Schemas } from '../api/client'
import { useMotion, useSpecies } from '../state/data'
import { useScene } from '../state/scene'
import { QUANTITIES } from '../sheet/masks/quantities'
import { showCount, showNumber } from '../ui/parse'
import { motionNotes } from '../motion/motionNotes'
import { useGrown } from './useGrown'
import { leadOf } from '../state/mix'

export interface Note {
  /** The layer that it is about; none where it is about the scene. */
  layer?: number
  text: string
  fix?: { name: string; run(): void }
  /** Where the plants stand that it is about. */
  places?: [number, number, number][]
}

/** Below this share of the ground a mask is more likely a slip than a wish. */
const SLIVER = 0.005
/** Further than this grass and trees rarely lean of itself; common practice, no source. */
const TILT_DEG = 15

/** What grows otherwise than when the scene was made. */
function newsNotes({ epoch, changes, edition, remade }: Schemas['News']): Note[] {
  const { run } = useScene.getState()
  const notes: Note[] = changes.map((c, i) => ({
    text: `Grows otherwise than when this scene was made: ${c.what[0].toLowerCase()}${c.what.slice(1)}. ${c.why}.`,
    // One button for all, beside the last.
    fix: i === changes.length - 1 ? { name: changes.length > 1 ? 'I know them' : 'I know', run: () => run({ do: 'know_changes', value: epoch }) } : undefined,
  }))
  if (remade.length > 0) {
    notes.push({
      text: `${new Intl.ListFormat('en').format(remade)} were remade since this scene was made; it keeps those of before.`,
      fix: { name: 'Take the new ones', run: () => run({ do: 'use_edition', value: edition }) },
    })
  }
  return notes
}

/** Findings from what was measured, and what the program does otherwise than before. */
export function useNotes(): Note[] {
  const { editLayer, run } = useScene.getState()
  const { data: species } = useSpecies()
  const news = useScene((s) => s.scene?.news)
  const ofLayers = useGrown().flatMap(({ layer, tally, problem }) => {
    const notes: Note[] = []
    const note = (text: string, fix?: Note['fix']) => notes.push({ layer: layer.id, text: `${layer.name}: ${text}`, fix })
    if (problem) note(`it could not grow: ${problem}.`)
    const capped = tally?.refused.find((r) => r.reason.rule === 'cap')?.count ?? 0
    if (tally && capped > 0 && tally.cap < layer.cap) {
      note(`the ceiling of the scene is reached; ${showCount(capped)} plants of this layer are left out.`, {
        name: 'Raise it',
        run: () => run({ do: 'cap_scene', value: Math.min(100_000_000, (useScene.getState().scene?.document.cap ?? 0) + capped) }),
      })
    } else if (tally && capped > 0) {
      note(`its ceiling of ${showCount(layer.cap)} is reached; ${showCount(capped)} plants are left out.`, {
        name: 'Raise the ceiling',
        run: () => editLayer(layer.id, { set: 'cap', value: Math.min(10_000_000, tally.placed + capped) }),
      })
    }
    layer.masks.forEach((mask, i) => {
      const share = tally?.mask_shares[i] ?? 1
      if (!mask.enabled || share >= SLIVER) return
      note(`its ${QUANTITIES[mask.quantity].name.toLowerCase()} mask lets ${showNumber(share * 100, 2)} % of the ground through.`, {
        name: 'Switch it off',
        run: () => editLayer(layer.id, { set: 'mask', value: { ...mask, enabled: false } }),
      })
    })
    if (tally && tally.asked > 0 && tally.placed === 0 && capped === 0) note('nothing grows anywhere.')
    const turn = layer.stance.turn_deg
    const grown = species?.find((s) => s.id === leadOf(layer))
    // What the wind has shaped leans one way: there it is the other way round.
    const shaped = grown?.plan.make === 'wood' && (grown.plan.wind ?? 0) > 0.2
    if (shaped && turn.max - turn.min > 90 && (tally?.placed ?? 0) > 1) {
      note('the wind has shaped them, and they lean every way. Turn them alike.', {
        name: 'Turn alike',
        run: () => editLayer(layer.id, { set: 'turn', value: { min: -12, max: 12 } }),
      })
    }
    if (!shaped && turn.max - turn.min < 30 && (tally?.placed ?? 0) > 1) {
      note(`all plants face nearly the same way (turn ${showNumber(turn.min, 0)}–${showNumber(turn.max, 0)}°).`, {
        name: 'Turn any way',
        run: () => editLayer(layer.id, { set: 'turn', value: { min: 0, max: 360 } }),
      })
    }
    const upright = grown && ['grass', 'broadleaf', 'conifer'].includes(grown.kind)
    if (upright && layer.stance.tilt_deg > TILT_DEG) {
      note(`plants tilt up to ${showNumber(layer.stance.tilt_deg, 0)}°, more than ${grown.kind === 'grass' ? 'grass leans' : 'trees lean'} of ${grown.kind === 'grass' ? 'itself' : 'themselves'}.`, {
        name: 'Tilt 6°',
        run: () => editLayer(layer.id, { set: 'tilt', value: 6 }),
      })
    }
    return notes
  })
  const { data: motion } = useMotion()
  const layers = useScene((s) => s.scene?.document.layers)
  const moving = motion && layers ? motionNotes(motion.notes, layers, species ?? []) : []
  return [...(news ? newsNotes(news) : []), ...moving, ...ofLayers]
}
