import { useEffect } from 'react'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import type { Stage } from './stage/stage'

/** Drapes the outlines over the ground: all of them at the Site, none elsewhere. */
export function useOutlines(stage: Stage | null, ground: unknown) {
  const outlines = useScene((s) => s.scene?.document.outlines)
  const lines = useScene((s) => s.scene?.outlines)
  const shown = useUi((s) => s.station === 'site')
  const chosen = useUi((s) => (s.chosen?.what === 'outline' ? s.chosen.id : null))
  useEffect(() => {
    stage?.setOutlines(
      (shown ? (outlines ?? []) : []).map((o) => ({
        kind: o.kind, width_m: o.width_m, chosen: o.id === chosen, line: lines?.find((l) => l.id === o.id)?.line ?? [],
      })),
    )
  }, [stage, ground, outlines, lines, shown, chosen])
}
