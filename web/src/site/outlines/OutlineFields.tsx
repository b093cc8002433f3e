import type { Outline } from '../../api/client'
import { useScene } from '../../state/scene'
import { Choice } from '../../ui/Choice'
import { NumberField } from '../../ui/NumberField'
import { Select } from '../../ui/Select'
import { Switch } from '../../ui/Switch'
import { EARTHS } from '../earths'
import { KINDS, type OutlineKind } from '../onGround'
import { UsedBy } from './UsedBy'

/** The settings of the chosen outline; its nodes are moved in the view. */
export function OutlineFields({ outline: o }: { outline: Outline }) {
  const { run } = useScene.getState()
  const put = (part: Partial<Outline>, gesture?: string) =>
    run({ do: 'put_outline', value: { ...o, ...part } }, gesture, gesture && `outline ${o.id}`)
  const kinds = (Object.keys(KINDS) as OutlineKind[]).filter((k) => o.nodes.length >= KINDS[k].fewest)
  const usual = o.kind === 'track' ? 'Worn by feet' : 'As around it'
  return (
    <div className="flex flex-col gap-2 px-2 pb-2">
      <UsedBy outline={o} />
      <div>
        <Choice label="What it is for" value={o.kind} options={kinds.map((k) => ({ value: k, name: KINDS[k].name, hint: KINDS[k].hint }))} onChange={(kind: OutlineKind) => put({ kind })} />
      </div>
      <div className="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
        <NumberField label="Soft edge" testId="outline-soft" unit="m" value={o.soft_m} min={0} max={100} step={0.05} digits={2} fallback={1}
          hint="How far the edge fades: inwards of a closed line, outwards of a track." onChange={(soft_m, g) => put({ soft_m }, g)} />
        {o.kind === 'track' ? (
          <NumberField label="Width" testId="outline-width" unit="m" value={o.width_m} min={0.05} max={100} step={0.05} digits={2} fallback={1.2} onChange={(width_m, g) => put({ width_m }, g)} />
        ) : (
          <span />
        )}
        <div className="flex h-7 items-center gap-1.5 text-xs text-soft">
          <Switch label="Smooth line" on={o.smooth} onChange={(smooth) => put({ smooth })} />
          smooth
        </div>
      </div>
      <Select label="Its ground" value={EARTHS.find((e) => e.value === o.earth)?.name ?? usual} options={[usual, ...EARTHS.map((e) => e.name)]}
        hint="The earth that is seen within it, with the fine cover that this earth brings. Plants grow as they did."
        onChange={(name) => put({ earth: EARTHS.find((e) => e.name === name)?.value ?? null })} />
      <p className="text-xs text-soft">Drag its nodes in the view. Drag a small one to put a node in; double-click a node, or Delete, takes it out.</p>
    </div>
  )
}
