import { useQuery } from '@tanstack/react-query'
import { api, wanted, type Schemas } from '../../api/client'
import { queries } from '../../state/data'
import { useScene } from '../../state/scene'

export type Community = Schemas['CommunityView']

/** Ready communities and those that were kept. */
export function useCommunities() {
  return useQuery({ queryKey: ['communities'], queryFn: () => wanted(api.GET('/api/communities')) })
}

export const readCommunitiesAgain = () => queries.invalidateQueries({ queryKey: ['communities'] })

/** What dropping a community on a ground (or all) of the scene means, worked out anew when the scene moves on. */
export function useDropPlan(community: string | null, ground: number | null) {
  const scene = useScene((s) => s.scene)
  return useQuery({
    queryKey: ['drop', scene?.id, scene?.seq, community, ground],
    enabled: Boolean(scene && community),
    queryFn: ({ signal }) =>
      wanted(
        api.GET('/api/scenes/{scene}/communities/{community}', {
          params: { path: { scene: scene!.id, community: community! }, query: ground === null ? {} : { ground } },
          signal,
        }),
      ),
  })
}
