import { Popover } from 'radix-ui'
import { useState, type KeyboardEvent } from 'react'
import type { Layer } from '../api/client'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { SettingEditor } from './SettingEditor'

/** Punctuation that belongs to the value before it, so that no line begins with a comma. */
function leading(part: { text: string; setting?: string | null } | undefined): string {
  return part && !part.setting ? (/^[,.;]/.exec(part.text)?.[0] ?? '') : ''
}

/** The numbers that can be typed there. */
const numbersIn = (part: HTMLElement) => [...part.querySelectorAll<HTMLInputElement>('input[inputmode=decimal]:not(:disabled)')]

/** The specification sentence, written by the core. Each value is a button that opens its setting in place. */
export function Sentence({ layer }: { layer: Layer }) {
  const parts = useScene((s) => s.scene!.layers.find((l) => l.id === layer.id)?.sentence)
  const look = useUi((s) => s.look)
  const [open, setOpen] = useState<number | null>(null)
  const values = parts?.flatMap((part, i) => (part.setting ? [i] : [])) ?? []
  /** Tab goes from number to number, and from the last of one value to the first of the next. */
  const onward = (e: KeyboardEvent<HTMLElement>) => {
    if (e.key !== 'Tab') return
    const numbers = numbersIn(e.currentTarget)
    const by = e.shiftKey ? -1 : 1
    const at = numbers.indexOf(e.target as HTMLInputElement)
    if (at < 0 && numbers.length > 0) return
    // The same said in other units is one value.
    const same = (e.target as HTMLElement).closest('[data-units]')
    const next = numbers.filter((n, k) => (k - at) * by > 0 && !same?.contains(n)).at(by > 0 ? 0 : -1)
    const value = values[values.indexOf(open!) + by]
    if (!next && value === undefined) return
    e.preventDefault()
    if (next) return next.focus()
    // What was typed counts as soon as the field is left.
    ;(e.target as HTMLElement).blur()
    setOpen(value)
  }
  return (
    <p className="text-[14.5px] leading-[25px]" data-testid="sentence">
      {parts?.map((part, i) =>
        part.setting ? (
          <span key={i} className="whitespace-nowrap">
          <Popover.Root
            open={open === i && !layer.locked}
            onOpenChange={(now) => {
              // One that closes late does not close the next.
              setOpen((was) => (now ? i : was === i ? null : was))
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
                onKeyDown={onward}
                onCloseAutoFocus={(e) => open !== null && e.preventDefault()}
                onOpenAutoFocus={(e) => {
                  const [first] = numbersIn(e.currentTarget as HTMLElement)
                  if (!first) return
                  e.preventDefault()
                  first.focus()
                }}
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
