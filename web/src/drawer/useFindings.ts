import { keepPreviousData, useQueries } from '@tanstack/react-query'
import { api, wanted, type Layer, type Schemas } from '../api/client'
import { changeKeep } from '../sheet/clearance/clearance'
import { useScene } from '../state/scene'
import { sayBytes } from '../nursery/kinds'
import { showMany, showNumber } from '../ui/parse'
import type { Note } from './useNotes'

type Findings = Schemas['Findings']

export interface Measured {
  layer: Layer
  findings: Findings | undefined
}

/** What is measured of every shown layer's plants; asked for while it is looked at. */
export function useFindings(on: boolean): Measured[] {
  const scene = useScene((s) => s.scene!)
  const shown = scene.document.layers.filter((l) => l.visible)
  const data = useQueries({
    queries: shown.map((l) => {
      const key = scene.layers.find((o) => o.id === l.id)!.plants_key
      return {
        queryKey: ['findings', l.id, key],
        enabled: on,
        placeholderData: keepPreviousData,
        queryFn: ({ signal }: { signal: AbortSignal }) =>
          wanted(api.GET('/api/scenes/{scene}/layers/{layer}/findings/{key}', { params: { path: { scene: scene.id, layer: l.id, key } }, signal })),
      }
    }),
  })
  return shown.map((layer, i) => ({ layer, findings: data[i]?.data }))
}

/** Cover that is asked for and cover that is there may differ by so much. */
const COVER = 0.05

/** What is out of the ordinary among the plants of a layer, each with its places and a fix where there is one. */
export function remarks({ layer, findings: f }: Measured): Note[] {
  if (!f || f.plants === 0) return []
  const { editLayer } = useScene.getState()
  const { stance } = layer
  const notes: Note[] = []
  const percent = (share: number) => `${showNumber(share * 100, share < 0.1 ? 1 : 0)} %`
  const note = (text: string, finding?: Schemas['Finding'], fix?: Note['fix']) =>
    notes.push({ layer: layer.id, text: `${layer.name}: ${text}`, fix, places: finding?.places_m as [number, number, number][] | undefined })
  if (f.hovering.remark) {
    const by = Math.ceil(f.sink_m * 100) / 100
    note(`${percent(f.hovering.share)} hang above the ground at their rim, by up to ${showNumber(f.hovering.worst * 100, 0)} cm.`, f.hovering, {
      name: `Sink ${showNumber(by * 100, 0)} cm more`,
      run: () => editLayer(layer.id, { set: 'sink', value: Number((stance.sink_m + by).toFixed(3)) }),
    })
  }
  if (f.buried.remark) {
    note(`${percent(f.buried.share)} are in the ground by more than half their height, the deepest by ${percent(f.buried.worst)} of it.`, f.buried, stance.sink_m > 0 ? {
      name: 'Sink half as deep',
      run: () => editLayer(layer.id, { set: 'sink', value: Number((stance.sink_m / 2).toFixed(3)) }),
    } : undefined)
  }
  if (f.overlapping.remark) {
    note(`the bases of ${percent(f.overlapping.share)} meet those of others, by up to ${showNumber(f.overlapping.worst * 100, 0)} cm.`, f.overlapping, {
      name: 'Keep them apart',
      run: () => changeKeep(layer, 'own', { by: 'footprint', margin_m: 0 }),
    })
  }
  for (const c of f.crossing) {
    if (!c.found.remark) continue
    const name = useScene.getState().scene?.document.layers.find((l) => l.id === c.layer)?.name ?? 'another layer'
    note(`${percent(c.found.share)} stand in plants of ${name}, by up to ${showNumber(c.found.worst * 100, 0)} cm.`, c.found)
  }
  if (f.repeated.remark) {
    const turned = stance.turn_deg.max - stance.turn_deg.min
    note(`${percent(f.repeated.share)} look like one of their neighbours: the same form, turned and sized alike.`, f.repeated, turned < 300 ? {
      name: 'Turn any way',
      run: () => editLayer(layer.id, { set: 'turn', value: { min: 0, max: 360 } }),
    } : stance.size.max / stance.size.min < 1.5 ? {
      name: 'Size them 0.7 to 1.3 times',
      run: () => editLayer(layer.id, { set: 'size', value: { min: 0.7, max: 1.3 } }),
    } : undefined)
  }
  if (layer.amount.unit === 'cover' && f.cover != null && Math.abs(f.cover - layer.amount.value) > COVER) {
    note(`${percent(f.cover)} of its ground is covered, ${percent(layer.amount.value)} is asked for.`)
  }
  return notes
}

export const costOf = (f: Findings) => `${showMany(f.triangles)}, ${sayBytes(f.bytes)}`
