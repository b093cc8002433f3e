import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { api, wanted, type Layer } from '../../api/client'
import { useScene } from '../../state/scene'
import { showNumber } from '../../ui/parse'

/** How much of the strip along edges and tracks lies bare, as measured. */
export function BareStrip({ layer }: { layer: Layer }) {
  const scene = useScene((s) => s.scene!)
  const key = scene.layers.find((l) => l.id === layer.id)!.plants_key
  const { data } = useQuery({
    queryKey: ['findings', layer.id, key],
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) => wanted(api.GET('/api/scenes/{scene}/layers/{layer}/findings/{key}', { params: { path: { scene: scene.id, layer: layer.id, key } }, signal })),
  })
  const bare = data?.bare
  if (!bare) return null
  const percent = (share: number) => `${showNumber(share * 100, share < 0.1 ? 1 : 0)} %`
  const share = bare.bare_m2 / bare.strip_m2
  return (
    <p className="text-xs text-soft" data-testid="bare-strip" title="Measured at points along the edges: ground under no crown. A margin below zero lets plants reach over and leaves less of it.">
      Bare within {showNumber(bare.width_m, 2)} m of an edge: <span className="font-mono">{showNumber(bare.bare_m2, 1)}</span> of <span className="font-mono">{showNumber(bare.strip_m2, 1)}</span> m², {percent(share)}.
      Farther in: {percent(bare.inner_share)}.
    </p>
  )
}
