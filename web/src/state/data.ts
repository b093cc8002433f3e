import { QueryClient, keepPreviousData, useQueries, useQuery } from '@tanstack/react-query'
import { useEffect, useMemo, useRef } from 'react'
import { api, fetchBuffer, wanted, type Layer, type Schemas, type Species } from '../api/client'
import { decodeFits, decodeFlow, decodeGround, decodePlaced, decodeReading, type PlantsBuffer, type ReadingBuffer } from '../api/buffers'
import { LastPlants } from './lastPlants'
import { onJob, useScene } from './scene'
import { inTime, useUi } from './ui'

export const queries = new QueryClient({
  defaultOptions: { queries: { retry: 1, staleTime: Infinity, refetchOnWindowFocus: false, gcTime: 30_000 } },
})

/** All species that may grow in the scene, and what can be set on them. Read again when one of its own or the season changes. */
export function useNursery() {
  const id = useScene((s) => s.scene?.id)
  const own = useScene((s) => JSON.stringify([s.scene?.document.season, s.scene?.document.species]))
  return useQuery({
    queryKey: ['nursery', id, own],
    enabled: Boolean(id),
    placeholderData: keepPreviousData,
    queryFn: async ({ signal }) => {
      const { species, settings } = await wanted(api.GET('/api/scenes/{scene}/species', { params: { path: { scene: id! } }, signal }))
      return { species: species.map(flattened), settings }
    },
  })
}

/** At most, and always. */
const HULL_TRIANGLES = 320
const BOX_TRIANGLES = 12

function flattened({ species: spec, ...derived }: Schemas['SpeciesView']): Species {
  return { ...spec, ...derived, spec, thin: derived.leafy, triangles: [...derived.sizes.map((s) => s.triangles), HULL_TRIANGLES, BOX_TRIANGLES] }
}

/** All species that may grow in the scene. */
export function useSpecies() {
  const { data } = useNursery()
  return { data: data?.species }
}

/** The ground as the view draws it. Named by its contents, so it is fetched once. */
export function useGround() {
  const id = useScene((s) => s.scene?.id)
  const key = useScene((s) => s.scene?.ground_key)
  return useQuery({
    queryKey: ['ground', key],
    enabled: Boolean(key),
    placeholderData: keepPreviousData,
    queryFn: async ({ signal }) => decodeGround(await fetchBuffer(`/api/scenes/${id}/ground/${key}`, signal)),
  })
}

/** A ground beside the land. Named by its contents: moving it fetches nothing. */
export function usePlaced(ground: number) {
  const id = useScene((s) => s.scene?.id)
  const key = useScene((s) => s.scene?.grounds.find((g) => g.id === ground)?.key)
  return useQuery(placedQuery(id, ground, key))
}

const placedQuery = (scene: string | undefined, ground: number, key: string | undefined) => ({
  queryKey: ['placed', ground, key],
  enabled: Boolean(key),
  placeholderData: keepPreviousData,
  queryFn: async ({ signal }: { signal: AbortSignal }) => decodePlaced(await fetchBuffer(`/api/scenes/${scene}/ground/${key}`, signal)),
})

/** All grounds beside the land that are at hand, with their numbers. */
export function useAllPlaced() {
  const id = useScene((s) => s.scene?.id)
  const grounds = useScene((s) => s.scene?.grounds) ?? []
  return useQueries({
    queries: grounds.map((g) => placedQuery(id, g.id, g.key)),
    combine: (results) => grounds.flatMap((g, i) => (results[i]?.data ? [{ id: g.id, ...results[i].data }] : [])),
  })
}

const NO_GROUNDS: { id: number; key: string }[] = []

/** A quantity of every ground that is shown, worked out when it is first looked at. The land is 0. */
export function useReadings() {
  const reading = useUi((s) => s.reading)
  const scene = useScene((s) => s.scene)
  const hidden = (id: number) => scene?.document.grounds?.find((g) => g.id === id)?.hidden ?? false
  const land = scene && !scene.document.ground.absent ? [{ id: 0, key: scene.ground_key }] : []
  const grounds = scene && reading ? [...land, ...scene.grounds.filter((g) => !hidden(g.id))] : NO_GROUNDS
  const answers = useQueries({
    queries: grounds.map(({ key }) => ({
      queryKey: ['reading', key, reading],
      queryFn: async ({ signal }: { signal: AbortSignal }) =>
        decodeReading(await fetchBuffer(`/api/scenes/${scene!.id}/ground/${key}/readings/${reading}`, signal)),
    })),
    combine: readingsOf,
  })
  const ids = grounds.map((g) => g.id).join()
  const data = useMemo(
    () => new Map(ids.split(',').flatMap((g, i) => (answers.data[i] ? [[Number(g), answers.data[i]] as const] : []))),
    [ids, answers.data],
  )
  return { data, isFetching: answers.isFetching, error: answers.error }
}

const readingsOf = (results: { data?: ReadingBuffer; isFetching: boolean; error: Error | null }[]) => ({
  data: results.map((r) => r.data),
  isFetching: results.some((r) => r.isFetching),
  error: results.find((r) => r.error)?.error ?? null,
})

/** A layer's plants. While new ones grow the last ones stay. */
export function usePlants(layer: Layer | undefined) {
  const id = useScene((s) => s.scene?.id)
  const key = useScene((s) => s.scene?.layers.find((l) => l.id === layer?.id)?.plants_key)
  return useQuery({
    queryKey: ['plants', layer?.id, key],
    enabled: Boolean(key && layer),
    placeholderData: keepPreviousData,
    gcTime: 0,
    queryFn: async ({ signal }) =>
      fetchPlants(`/api/scenes/${id}/layers/${layer!.id}/plants/${key}`, layer!.id, key!, signal),
  })
}

/** Nothing waits longer for plants, milliseconds. */
const PLANTS_FIRST_MS = 400

/** Lets the plants of a layer come first, if any are under way: they are what an artist waits for. */
export async function afterPlants(layer: number) {
  const start = performance.now()
  do await new Promise((resolve) => setTimeout(resolve, 5))
  while (queries.isFetching({ queryKey: ['plants', layer] }) > 0 && performance.now() - start < PLANTS_FIRST_MS)
}

/** The plants of a layer that are bent aside or trimmed; none while they are worked out, and where there are none. */
export function useFits(layer: Layer | undefined) {
  const id = useScene((s) => s.scene?.id)
  const key = useScene((s) => s.scene?.layers.find((l) => l.id === layer?.id)?.fits_key)
  return useQuery({
    queryKey: ['fits', layer?.id, key],
    enabled: Boolean(key && layer),
    placeholderData: keepPreviousData,
    gcTime: 5_000,
    queryFn: async ({ signal }) => (key ? decodeFits(await fetchBuffer(`/api/scenes/${id}/layers/${layer!.id}/fits/${key}`, signal)) : null),
  })
}

/** The plants of a layer as they are at hand; what asks like this does not fetch them. */
export const grownQuery = (layer: number, key: string) => ({ queryKey: ['plants', layer, key], enabled: false, gcTime: 0 })

const lastPlants = new Map<number, LastPlants>()

async function fetchPlants(path: string, layer: number, key: string, signal: AbortSignal): Promise<PlantsBuffer> {
  const last = lastPlants.get(layer) ?? new LastPlants((gone) => queries.removeQueries({ queryKey: ['plants', layer, gone], type: 'inactive' }))
  lastPlants.set(layer, last)
  const atHand = last.again(key)
  if (atHand) return atHand
  const since = last.names()
  return last.take(key, await fetchBuffer(since ? `${path}?since=${since}` : path, signal))
}

/** The contact sheet. How far a still is comes with the message; it is read again when one begins or ends. */
/** How the scene moves, for as long as one is where time counts. What of the scene it hangs on names it. */
export function useMotion() {
  const scene = useScene((s) => s.scene)
  const here = useUi((s) => inTime(s.station))
  const shown = scene?.document.layers.filter((l) => l.visible) ?? []
  const grown = shown.map((l) => [l.id, l.wind_share ?? 1, scene!.layers.find((v) => v.id === l.id)?.plants_key])
  return useQuery({
    queryKey: ['motion', scene?.id, scene?.document.motion, scene?.document.blowers, scene?.document.bodies, scene?.document.grounds?.map((g) => [g.id, g.hidden, g.moves]), scene?.document.species, scene?.ground_key, scene?.obstacles, grown],
    enabled: Boolean(scene) && here,
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) => wanted(api.GET('/api/scenes/{scene}/motion', { params: { path: { scene: scene!.id } }, signal })),
  })
}

/** The mean wind over the land and what stands on it, for as long as one is where time counts. */
export function useFlow() {
  const id = useScene((s) => s.scene?.id)
  const { data } = useMotion()
  const blows = useScene((s) => (s.scene?.document.motion?.wind?.speed_m_per_s ?? 0) > 0)
  const key = data?.flow_key
  return useQuery({
    queryKey: ['flow', id, key],
    enabled: Boolean(id && key && blows),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    queryFn: async ({ signal }) => decodeFlow(await fetchBuffer(`/api/scenes/${id}/flow/${key}`, signal)),
  })
}

/** Between two looks at stills that are on their way, milliseconds. */
const LOOK_MS = 1400

export function useStills() {
  const id = useScene((s) => s.scene?.id)
  const query = useQuery({
    queryKey: ['stills', id],
    enabled: Boolean(id),
    queryFn: () => wanted(api.GET('/api/scenes/{scene}/stills', { params: { path: { scene: id! } } })),
  })
  const { refetch } = query
  const looked = useRef(0)
  useEffect(
    () =>
      onJob((job) => {
        const known = queries.getQueryData<Schemas['Still'][]>(['stills', id])
        const still = known?.find((s) => s.job_id === job?.job)
        // An event tells how far a still is; its picture so far and the time that is left are asked for now and then.
        if (!job || !still || still.state !== job.state || Date.now() - looked.current > LOOK_MS) {
          looked.current = Date.now()
          void refetch()
        }
        else queries.setQueryData(['stills', id], known!.map((s) => (s === still ? { ...s, progress: job.progress } : s)))
      }),
    [refetch, id],
  )
  return query
}

/** The runs of frames, asked for again now and then while one is on its way. */
export function useRuns() {
  const id = useScene((s) => s.scene?.id)
  const query = useQuery({
    queryKey: ['runs', id],
    enabled: Boolean(id),
    queryFn: () => wanted(api.GET('/api/scenes/{scene}/runs', { params: { path: { scene: id! } } })),
  })
  const { refetch } = query
  useEffect(() => {
    let timer: number | undefined
    const stop = onJob((job) => {
      const stills = queries.getQueryData<Schemas['Still'][]>(['stills', id])
      if (timer !== undefined || stills?.some((s) => s.job_id === job?.job)) return
      // A little later: what comes in a burst is seen at its end, and its last is never missed.
      timer = window.setTimeout(() => {
        timer = undefined
        void refetch()
      }, LOOK_MS / 2)
    })
    return () => {
      window.clearTimeout(timer)
      stop()
    }
  }, [refetch, id])
  return query
}
