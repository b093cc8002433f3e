import { useIsFetching, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { useScene } from '../state/scene'

/** What is over before one could read it is not told, milliseconds. */
const QUIET_MS = 300

/** Says which layers are growing while the view still shows what stood before. */
export function Growing() {
  const client = useQueryClient()
  const layers = useScene((s) => s.scene!.document.layers)
  const count = useIsFetching({ queryKey: ['plants'] })
  const [since, setSince] = useState<number | null>(null)
  const [now, setNow] = useState(0)
  const busy = count > 0
  useEffect(() => {
    if (!busy) return setSince(null)
    const start = performance.now()
    setSince(start)
    setNow(start)
    const timer = setInterval(() => setNow(performance.now()), QUIET_MS)
    return () => clearInterval(timer)
  }, [busy])
  if (!busy || since === null || now - since < QUIET_MS) return null
  const growing = client.getQueryCache().findAll({ queryKey: ['plants'], fetchStatus: 'fetching' }).map((q) => q.queryKey[1])
  const names = layers.filter((l) => growing.includes(l.id)).map((l) => l.name)
  const seconds = Math.floor((now - since) / 1000)
  return (
    <p role="status" data-testid="growing" className="pointer-events-none absolute bottom-20 left-3 flex items-center gap-2 rounded-md border border-rule bg-panel/92 px-2 py-0.5 text-xs text-soft shadow-sm">
      <span className="size-2 animate-pulse rounded-full bg-fern motion-reduce:animate-none" aria-hidden />
      {names.length === 1 ? `Growing ${names[0]}` : `Growing ${names.length} layers`}
      {seconds >= 2 && ` · ${seconds} s`}
      <span className="sr-only">; until then the plants of before are shown</span>
    </p>
  )
}
