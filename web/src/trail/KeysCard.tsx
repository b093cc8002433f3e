import { Dialog } from 'radix-ui'
import { STATIONS, useUi } from '../state/ui'

const KEYS: { where: string; keys: [string, string][] }[] = [
  {
    where: 'Everywhere',
    keys: [
      [`1 to ${STATIONS.length}`, STATIONS.map((s) => s.name).join(', ')],
      ['Ctrl K', 'find a command, or a species to add'],
      ['Ctrl Z, Ctrl Shift Z', 'undo, redo'],
      ['P, C', 'plan or perspective; contours'],
      ['[ and ]', 'fold the profile, the sheet'],
      ['?', 'this card'],
    ],
  },
  {
    where: 'In the profile',
    keys: [
      ['Up, Down', 'the layer above, below'],
      ['Alt Up, Alt Down', 'move it up or down in its band'],
      ['Enter', 'on to its sentence'],
      ['F2, Delete', 'rename, delete'],
      ['Ctrl-click', 'edit several together'],
      ['Ctrl C, Ctrl V', 'copy layers, also to another scene'],
    ],
  },
  {
    where: 'In a number',
    keys: [
      ['Enter, Escape', 'take it, leave it as it was'],
      ['Up, Down; Shift', 'a step more, less; a tenth of it'],
      ['Tab', 'in a sentence: on to the next value'],
      ['double-click', 'back to what is usual'],
      ['2.5 m, 1/3, 12+4', 'units and sums may be typed'],
    ],
  },
  {
    where: 'In the view',
    keys: [
      ['drag, right drag, wheel', 'move, turn, nearer and farther'],
      ['+ and -', 'a wider, a narrower brush'],
      ['Escape', 'put the brush down'],
      ['space', 'play or pause, at Motion'],
    ],
  },
]

/** The keys on one card. */
export function KeysCard() {
  const { keys, set } = useUi()
  return (
    <Dialog.Root open={keys} onOpenChange={(open) => set({ keys: open })}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/35" />
        <Dialog.Content
          aria-describedby={undefined}
          data-testid="keys-card"
          className="fixed top-1/2 left-1/2 z-50 max-h-[90vh] w-[min(760px,94vw)] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-md border border-rule bg-panel p-5 shadow-xl"
        >
          <Dialog.Title className="mb-3 text-sm font-semibold">Keys</Dialog.Title>
          <div className="grid grid-cols-2 gap-x-8 gap-y-4">
            {KEYS.map(({ where, keys: own }) => (
              <section key={where} aria-label={where}>
                <h3 className="mb-1 border-b border-rule pb-0.5 text-xs text-soft">{where}</h3>
                <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1">
                  {own.map(([key, what]) => (
                    <div key={key} className="contents">
                      <dt className="font-mono text-[11px] leading-5 whitespace-nowrap">{key}</dt>
                      <dd className="text-soft">{what}</dd>
                    </div>
                  ))}
                </dl>
              </section>
            ))}
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
