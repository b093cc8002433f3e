import { Popover } from 'radix-ui'
import { useState } from 'react'
import type { Layer } from '../api/client'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { SettingEditor } from './SettingEditor'

/** Punctuation that belongs to the value before it, so that no line begins with a comma. */
function leading(part: { text: string; setting?: string | null } | undefined): string {
  return part && !part.setting ? (/^[,.;]/.exec(part.text)?.[0] ?? '') : ''
}

/** The specification sentence, written by the core. Each value is a button that opens its setting in place. */
export function Sentence({ layer }: { layer: Layer }) {
  const parts = useScene((s) => s.scene!.layers.find((l) => l.id === layer.id)?.sentence)
  const look = useUi((s) => s.look)
  const [open, setOpen] = useState<number | null>(null)
  return (
    <p className="text-[14.5px] leading-[25px]" data-testid="sentence">
      {parts?.map((part, i) =>
        part.setting ? (
          <span key={i} className="whitespace-nowrap">
          <Popover.Root
            open={open === i && !layer.locked}
            onOpenChange={(now) => {
              setOpen(now ? i : null)
              if (now) look(part.setting!)
            }}
          >
            <Popover.Trigger
              data-setting-button={part.setting}
              className="rounded border-b border-rule bg-well px-1 font-semibold hover:border-thrift hover:bg-thrift-wash data-[state=open]:border-thrift data-[state=open]:bg-thrift-wash"
            >
              {part.text}
            </Popover.Trigger>
            <Popover.Portal>
              <Popover.Content
                sideOffset={5}
                collisionPadding={12}
                className="z-40 w-72 rounded-md border border-rule bg-panel p-3 shadow-xl"
              >
                <SettingEditor layer={layer} setting={part.setting} />
                <Popover.Arrow className="fill-rule" />
              </Popover.Content>
            </Popover.Portal>
          </Popover.Root>
          {leading(parts[i + 1])}
          </span>
        ) : (
          <span key={i}>{part.text.slice(leading(part).length)}</span>
        ),
      )}
    </p>
  )
}
