import { useEffect, useMemo } from 'react'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import type { GroundLine } from './stage/lines'
import type { Stage } from './stage/stage'

/** Drapes the outlines over the ground: all of them at the Site, none elsewhere. */
export function useOutlines(stage: Stage | null, ground: unknown) {
  const outlines = useScene((s) => s.scene?.document.outlines)
  const lines = useScene((s) => s.scene?.outlines)
  const shown = useUi((s) => s.station === 'site')
  const chosen = useUi((s) => (s.chosen?.what === 'outline' ? s.chosen.id : null))
  // Every answer of the server brings the outlines anew; only other ones are worth a picture.
  const wanted = JSON.stringify(
    (shown ? (outlines ?? []) : []).map((o): GroundLine => ({
      kind: o.kind, width_m: o.width_m, chosen: o.id === chosen, line: lines?.find((l) => l.id === o.id)?.line ?? [],
    })),
  )
  const list = useMemo(() => JSON.parse(wanted) as GroundLine[], [wanted])
  useEffect(() => stage?.setOutlines(list), [stage, ground, list])
}
