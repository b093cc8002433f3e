import { Link2, Unlink } from 'lucide-react'
import { Popover } from 'radix-ui'
import { useState } from 'react'
import type { Layer, Schemas } from '../../api/client'
import { freshId, useScene } from '../../state/scene'
import { Button } from '../../ui/Button'
import { Choice } from '../../ui/Choice'

type Settings = Schemas['SharedSettings']

const SETTINGS: { value: Settings; name: string; hint: string }[] = [
  { value: 'mix', name: 'What grows', hint: 'Species, shares and tint.' },
  { value: 'amount', name: 'How much', hint: 'Amount and pattern.' },
  { value: 'masks', name: 'Where', hint: 'All masks.' },
  { value: 'stance', name: 'How it stands', hint: 'Size, turn, tilt and the rest.' },
]

/** Which settings a layer has in common with others, and the way to part them or to share more. */
export function ShareRow({ layer }: { layer: Layer }) {
  const document = useScene((s) => s.scene!.document)
  const { run } = useScene.getState()
  const [settings, setSettings] = useState<Settings>('stance')
  const [chosen, setChosen] = useState<number[]>([])
  const shares = document.shares ?? []
  const own = shares.filter((s) => s.layers.includes(layer.id))
  const name = (id: number) => document.layers.find((l) => l.id === id)?.name ?? 'a layer that is gone'
  const taken = (id: number) => shares.some((s) => s.settings === settings && s.layers.includes(id))
  const part = (share: Schemas['Share']) => {
    const rest = share.layers.filter((id) => id !== layer.id)
    // Two are the fewest that can share.
    run(rest.length < 2 ? { do: 'remove_share', id: share.id } : { do: 'put_share', value: { ...share, layers: rest } })
  }
  const share = () => {
    run({ do: 'put_share', value: { id: freshId(shares), settings, layers: [layer.id, ...chosen.filter((id) => !taken(id))] } })
    setChosen([])
  }
  return (
    <div className="mt-2 flex flex-col gap-1" data-testid="shares">
      {own.map((s) => (
        <p key={s.id} className="flex items-center gap-1.5 rounded-md border border-rule px-2 py-1">
          <Link2 size={14} className="shrink-0 text-thrift" aria-hidden />
          <span className="min-w-0 flex-1">
            {SETTINGS.find((o) => o.value === s.settings)!.name}: shared with {s.layers.filter((id) => id !== layer.id).map(name).join(', ')}
          </span>
          <Button look="quiet" disabled={layer.locked} title="Each keeps what it has, and goes its own way from here" onClick={() => part(s)}>
            <Unlink size={13} aria-hidden />
            Part
          </Button>
        </p>
      ))}
      {document.layers.length > 1 && (
        <Popover.Root>
          <Popover.Trigger asChild>
            <Button look="quiet" className="-ml-2 self-start" disabled={layer.locked}>
              <Link2 size={13} aria-hidden />
              Share settings
            </Button>
          </Popover.Trigger>
          <Popover.Portal>
            <Popover.Content sideOffset={5} collisionPadding={12} align="start" className="z-40 flex w-96 flex-col gap-2 rounded-md border border-rule bg-panel p-3 shadow-xl">
              <p className="text-soft">These layers take over what {layer.name} has. From then on a change of one changes all, until they are parted.</p>
              <Choice label="Which settings" value={settings} options={SETTINGS} onChange={(v) => setSettings(v as Settings)} />
              <ul className="max-h-52 overflow-y-auto">
                {document.layers
                  .filter((l) => l.id !== layer.id)
                  .map((l) => (
                    <li key={l.id}>
                      <label className="flex items-center gap-2 py-0.5">
                        <input type="checkbox" checked={chosen.includes(l.id) && !taken(l.id)} disabled={l.locked || taken(l.id)}
                          onChange={(e) => setChosen(e.currentTarget.checked ? [...chosen, l.id] : chosen.filter((id) => id !== l.id))} />
                        {l.name}
                        {taken(l.id) && <span className="text-xs text-soft">shares these already</span>}
                        {l.locked && <span className="text-xs text-soft">locked</span>}
                      </label>
                    </li>
                  ))}
              </ul>
              <Popover.Close asChild>
                <Button disabled={taken(layer.id) || chosen.filter((id) => !taken(id)).length === 0} onClick={share}>
                  Share them
                </Button>
              </Popover.Close>
              {taken(layer.id) && <p className="text-xs text-soft">{layer.name} shares these already. Part it first.</p>}
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      )}
    </div>
  )
}
