import { FORMS, type MoverKind } from '../motion/movers/movers'
import { useScene } from '../state/scene'
import { useSpecies } from '../state/data'
import { STATIONS, applyTheme, useUi, type Reading } from '../state/ui'
import { WAYS } from '../view/ways'
import { READINGS } from '../view/readings'
import { KINDS, SHAPES, type OutlineKind, type ReadyKind } from '../site/onGround'
import { addGround } from '../site/grounds/addGround'
import { READY, type ReadyGround } from '../site/grounds/placed'
import { duplicateOf } from '../profile/duplicate'
import { DEFAULT_SCULPTING, TOOLS } from '../site/sculpting'
import { addPool } from '../site/water/addPool'
import { useView } from '../state/view'
import { newLayer } from '../profile/newLayer'
import { download } from '../sheet/download'

export interface FoundCommand {
  name: string
  /** Other words people may look for. */
  also?: string
  keys?: string
  run(): void
}

/** Everything that can be done from anywhere. */
export function useCommands(): FoundCommand[] {
  const scene = useScene((s) => s.scene)
  const { run, undo, redo } = useScene.getState()
  const ui = useUi()
  const stage = useView((s) => s.stage)
  const { data: species } = useSpecies()
  if (!scene) return []
  const layer = scene.document.layers.find((l) => l.id === ui.layer)
  const go = (station: (typeof STATIONS)[number], i: number): FoundCommand => ({
    name: `Go to ${station.name}`, also: station.what, keys: `${i + 1}`, run: () => ui.set({ station: station.id }),
  })
  const edit = (name: string, also: string, action: () => void): FoundCommand[] =>
    layer ? [{ name: `${name} \u201c${layer.name}\u201d`, also, run: action }] : []
  const theme = ui.theme === 'chalk' ? 'dusk' : 'chalk'

  return [
    ...STATIONS.map(go),
    { name: 'Undo', also: 'take back', keys: 'Ctrl Z', run: undo },
    ...(Object.keys(READY) as ReadyGround[]).map((kind) => ({
      name: `Add a ${READY[kind].name.toLowerCase()} beside the land`, also: 'ground mesh', run: () => addGround(READY[kind].source, READY[kind].name),
    })),
    { name: 'Set in a sheet of water', also: 'pool pond tarn', run: addPool },
    { name: 'Redo', also: 'again', keys: 'Ctrl Shift Z', run: redo },
    ...(species ?? []).map((s) => ({
      name: `Add a layer of ${s.plural.toLowerCase()}`,
      also: 'new plant species',
      run: () => {
        const made = newLayer(scene.document, s)
        run({ do: 'add_layer', layer: made, place: 0 })
        ui.set({ layer: made.id, station: 'planting' })
      },
    })),
    ...edit('Duplicate', 'copy layer', () => run(duplicateOf(layer!, scene.document.layers))),
    ...edit('Delete', 'remove layer', () => run({ do: 'remove_layer', id: layer!.id })),
    ...edit(layer?.visible ? 'Hide' : 'Show', 'eye visible layer', () =>
      useScene.getState().editLayer(layer!.id, { set: 'visible', value: !layer!.visible })),
    { name: 'Look at the whole ground', also: 'frame fit view', run: () => stage?.frameGround() },
    { name: ui.mode === 'plan' ? 'Look in perspective' : 'Look at the plan', also: 'view top map', keys: 'P', run: () => ui.set({ mode: ui.mode === 'plan' ? 'perspective' : 'plan' }) },
    { name: ui.contours ? 'Hide contours' : 'Show contours', also: 'height lines', keys: 'C', run: () => ui.set({ contours: !ui.contours }) },
    ...(Object.keys(READINGS) as Reading[]).map((id) => ({
      name: `Read ${READINGS[id].name.toLowerCase()} off the ground`, also: 'overlay analysis show ' + READINGS[id].hint, run: () => ui.set({ reading: id }),
    })),
    ...(ui.reading ? [{ name: 'Take the reading off the ground', also: 'overlay hide', run: () => ui.set({ reading: null }) }] : []),
    ...(['blower', ...Object.keys(FORMS)] as MoverKind[]).map((kind) => ({
      name: `Put in a ${kind === 'blower' ? 'blower' : FORMS[kind].name.toLowerCase()}`, also: 'motion moves path roll press wash drone',
      run: () => ui.set({ station: 'motion', drawing: { what: 'mover', kind }, chosen: null }),
    })),
    ...(Object.keys(KINDS) as OutlineKind[]).map((kind) => ({
      name: `Draw a ${KINDS[kind].name.toLowerCase()}`, also: 'outline line path ' + KINDS[kind].hint, run: () => ui.set({ station: 'site', drawing: { what: 'outline', kind }, sculpting: null, chosen: null }),
    })),
    ...(Object.keys(SHAPES) as ReadyKind[]).map((kind) => ({
      name: `Set up a ${SHAPES[kind].name.toLowerCase()}`, also: 'obstacle building add', run: () => ui.set({ station: 'site', drawing: { what: 'obstacle', kind }, sculpting: null, chosen: null }),
    })),
    ...TOOLS.map((t) => ({
      name: `${t.name} the ground`, also: 'sculpt brush terrain ' + t.hint, run: () => ui.set({ station: 'site', probing: false, sculpting: { ...(ui.sculpting ?? DEFAULT_SCULPTING), tool: t.id } }),
    })),
    { name: 'Ask the ground why something grows or not', also: 'probe', run: () => ui.set({ probing: !ui.probing }) },
    { name: 'Cut a section through the ground', also: 'profile cross section line', run: () => ui.set({ drawer: 'section', drawing: { what: 'section' }, sculpting: null, chosen: null }) },
    { name: 'Open the account of all layers', also: 'asked placed refused table charts', run: () => ui.set({ drawer: 'account' }) },
    { name: 'Open the notes', also: 'findings warnings', run: () => ui.set({ drawer: 'notes' }) },
    { name: 'Show the keys on one card', also: 'shortcuts keyboard help', keys: '?', run: () => ui.set({ keys: true }) },
    ...(['profile', 'sheet'] as const).map((side) => ({
      name: `${ui.folded[side] ? 'Open' : 'Fold'} the ${side}`, also: 'rail side narrow wide room', keys: side === 'profile' ? '[' : ']',
      run: () => (ui.folded[side] ? ui.unfold(side) : ui.fold(side)),
    })),
    ...WAYS.map((w) => ({
      name: w.id === 'auto' ? 'Draw all plants as each layer is set' : `Draw all plants: ${w.all.toLowerCase()}`, also: 'light quick view show as stand-in proxy', run: () => ui.set({ allAs: w.id }),
    })),
    { name: 'Download GLB', also: 'handoff export gltf mesh', run: () => download(scene.id, 'glb') },
    { name: 'Download the plant table', also: 'handoff export csv', run: () => download(scene.id, 'csv') },
    { name: 'Download the scene file', also: 'handoff export json save', run: () => download(scene.id, 'json') },
    { name: theme === 'dusk' ? 'Dim the interface (Dusk)' : 'Brighten the interface (Chalk)', also: 'theme dark light', run: () => { applyTheme(theme); ui.set({ theme }) } },
  ]
}
