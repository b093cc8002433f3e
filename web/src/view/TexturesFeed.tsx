import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useEffect } from 'react'
import { decodeTextures } from '../api/buffers'
import { fetchBuffer } from '../api/client'
import { useScene } from '../state/scene'
import { useView } from '../state/view'

/** Brings pictures of what grounds and built things are made of into the view; draws nothing itself. */
export function TexturesFeed() {
  const stage = useView((s) => s.stage)
  const scene = useScene((s) => s.scene?.id)
  const key = useScene((s) => s.scene?.textures_key)
  const { data: textures } = useQuery({
    queryKey: ['textures', key],
    enabled: Boolean(scene && key),
    staleTime: Infinity,
    // The newest alone is held for good: they are large.
    gcTime: 60_000,
    placeholderData: keepPreviousData,
    queryFn: async ({ signal }) => decodeTextures(await fetchBuffer(`/api/scenes/${scene}/textures/${key}`, signal)),
  })
  useEffect(() => {
    if (textures) stage?.setTextures(textures)
  }, [stage, textures])
  useEffect(() => {
    if (textures?.amiss.length) useScene.getState().say(textures.amiss.join(' '))
  }, [textures])
  return null
}
