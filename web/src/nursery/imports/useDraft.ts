import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { api, failure, wanted, type SpeciesSpec } from '../../api/client'
import type { Plan } from './draft'

/** What the species of a plan would be, measured by the server. */
export function useMeasured(plan: Plan) {
  // Height and radius are what is asked for; the scale plays no part.
  const asked = { ...plan, tall_m: 1, wide_m: 1, scale: 1 }
  return useQuery({
    queryKey: ['import', asked],
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: ({ signal }) => wanted(api.POST('/api/imports/measure', { body: asked, signal })),
  })
}

/** A picture of a species that no scene has yet, as an address for an image. */
export function useDraftPicture(species: SpeciesSpec | null, figure: boolean) {
  return useQuery({
    queryKey: ['import picture', species, figure],
    enabled: species !== null,
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: async ({ signal }) => {
      const response = await fetch(`/api/imports/portrait?width=560&height=480&samples=24&forms=${Math.min(species!.forms, 4)}&figure=${figure}`, {
        method: 'POST', body: JSON.stringify(species), headers: { 'content-type': 'application/json' }, signal,
      })
      if (!response.ok) throw failure(await response.json().catch(() => null), response.status)
      return URL.createObjectURL(await response.blob())
    },
  })
}
