import { useEffect, useRef, useState } from 'react'
import { ApiFailure } from './api/client'
import { Drawer } from './drawer/Drawer'
import { Timeline } from './motion/Timeline'
import { Nursery } from './nursery/Nursery'
import { Profile } from './profile/Profile'
import { ConflictCard } from './trail/ConflictCard'
import { Refusal } from './trail/Refusal'
import { KeysCard } from './trail/KeysCard'
import { Trail } from './trail/Trail'
import { CommandSearch } from './trail/CommandSearch'
import { useKeys } from './trail/useKeys'
import { Sheet } from './sheet/Sheet'
import { CompareStills } from './shots/CompareStills'
import { useScene } from './state/scene'
import { inTime, useUi } from './state/ui'
import { Button } from './ui/Button'
import { View } from './view/View'

const GRACE_MS = 1500
const RETRY_MS = 2000

/** Trail on top, Profile on the left, View in the middle over the Drawer, Sheet on the right. */
export function App() {
  const ready = useScene((s) => s.scene !== null)
  const open = useScene((s) => s.open)
  const layers = useScene((s) => s.scene?.document.layers)
  const waits = useScene((s) => s.saving.waiting > 0)
  const { layer, set, compared, station } = useUi()
  const [failed, setFailed] = useState<string | null>(null)
  const retry = useRef(0)
  useKeys()

  const start = () => {
    clearTimeout(retry.current)
    open(new URLSearchParams(location.search).get('scene') ?? undefined).catch((e: Error) => {
      setFailed(e.message)
      // What is away comes back: then the scene opens by itself, and what was not saved is sent.
      if (e instanceof ApiFailure && e.kind !== 'refused') retry.current = window.setTimeout(start, RETRY_MS)
    })
  }
  useEffect(start, []) // eslint-disable-line react-hooks/exhaustive-deps

  // Something is always chosen while there is something to choose.
  useEffect(() => {
    // One that was just added is there once it is saved, and a moment later.
    if (!layers || waits || layers.some((l) => l.id === layer)) return
    const known = layers[0]?.id ?? null
    const timer = window.setTimeout(() => set({ layer: known, together: [] }), layer === null ? 0 : GRACE_MS)
    return () => window.clearTimeout(timer)
  }, [layers, layer, waits, set])

  if (!ready) {
    return (
      <main className="grid h-full place-content-center justify-items-center gap-3 text-center">
        <h1 className="text-lg font-semibold">Rookery</h1>
        {failed ? (
          <>
            <p role="alert" className="max-w-96 text-iron">
              {failed}
            </p>
            <Button onClick={start}>Try again</Button>
          </>
        ) : (
          <p className="text-soft">Opening the scene…</p>
        )}
      </main>
    )
  }
  return (
    <div className="flex h-full flex-col">
      <Trail />
      <div className="flex min-h-0 flex-1">
        <Profile />
        <main className="relative flex min-w-0 flex-1 flex-col">
          <View />
          {inTime(station) && <Timeline />}
          <Drawer />
          {station === 'nursery' && <Nursery />}
          {compared && <CompareStills />}
          <Refusal />
          <ConflictCard />
        </main>
        <Sheet />
      </div>
      <CommandSearch />
      <KeysCard />
    </div>
  )
}
