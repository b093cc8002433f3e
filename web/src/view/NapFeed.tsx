import { useQuery } from '@tanstack/react-query'
import { useEffect, useMemo } from 'react'
import { decodeForms, decodeNap } from '../api/buffers'
import { fetchBuffer, type Schemas } from '../api/client'
import { useScene } from '../state/scene'
import { useUi } from '../state/ui'
import { useView } from '../state/view'
import { useSettledKey } from './useSettledKey'

/** Brings the ground's own fine cover about the eye into the view; draws nothing itself. */
export function NapFeed() {
  const stage = useView((s) => s.stage)
  const plain = useUi((s) => s.rest === 'plain')
  const scene = useScene((s) => s.scene?.id)
  const ground = useScene((s) => s.scene?.document.ground)
  const outlines = useScene((s) => s.scene?.document.outlines)
  const textures = useScene((s) => s.scene?.textures_key)
  const key = useSettledKey(useScene((s) => s.scene?.ground_key), JSON.stringify(ground))
  const grown = Boolean(scene && key && ground && !ground.absent && !plain)
  const { data: forms } = useQuery({
    queryKey: ['nap forms'],
    enabled: grown,
    staleTime: Infinity,
    queryFn: async ({ signal }) => decodeForms(await fetchBuffer('/api/nap/forms', signal)).meshes,
  })
  const bareNow = JSON.stringify(ground?.bare ?? [])
  const own = JSON.stringify([key, textures, ground?.bare, outlines?.filter((o) => o.kind === 'track' || o.earth)])
  const source = useMemo(
    () =>
      grown && forms
        ? { key: `${scene} ${own}`, forms, square: async (x: number, z: number) => decodeNap(await fetchBuffer(`/api/scenes/${scene}/ground/${key}/nap/${x}/${z}`)) }
        : null,
    [grown, forms, scene, key, own],
  )
  const bare = useMemo(() => JSON.parse(bareNow) as Schemas['Earth'][], [bareNow])
  useEffect(() => stage?.setNap(source, bare), [stage, source, bare])
  return null
}
