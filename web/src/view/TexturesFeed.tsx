import { useQuery } from '@tanstack/react-query'
import { useEffect } from 'react'
import { decodeTextures } from '../api/buffers'
import { fetchBuffer } from '../api/client'
import { useView } from '../state/view'

/** Brings pictures of what grounds and built things are made of into the view; draws nothing itself. */
export function TexturesFeed() {
  const stage = useView((s) => s.stage)
  const { data: textures } = useQuery({
    queryKey: ['textures'],
    staleTime: Infinity,
    gcTime: Infinity,
    queryFn: async ({ signal }) => decodeTextures(await fetchBuffer('/api/textures', signal)),
  })
  useEffect(() => {
    if (textures) stage?.setTextures(textures)
  }, [stage, textures])
  return null
}
