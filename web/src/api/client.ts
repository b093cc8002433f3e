import createClient from 'openapi-fetch'
import type { components, paths } from './schema'

export type Schemas = components['schemas']
export type SceneView = Schemas['SceneView']
export type Document = Schemas['Document']
export type Layer = Schemas['Layer']
export type Mask = Schemas['Mask']
export type Response = Schemas['Response']
export type Outline = Schemas['Outline']
export type Obstacle = Schemas['Obstacle']
export type PlacedGround = Schemas['PlacedGround']
export type WaterPlane = Schemas['WaterPlane']
export type Zone = Schemas['Zone']
export type Shot = Schemas['Shot']
export type Command = Schemas['Command']
export type LayerEdit = Schemas['LayerEdit']
export type ShotEdit = Schemas['ShotEdit']
export type SpeciesSpec = Schemas['Species']
export type Setting = Schemas['Setting']
export type Kind = Schemas['Kind']
/** A species with what is derived from it. */
export type Species = SpeciesSpec &
  Omit<Schemas['SpeciesView'], 'species'> & {
    /** All of it, as it is stored. */
    spec: SpeciesSpec
    /** Light goes through its leaves. */
    thin: boolean
    /** Of the first form at full, light and far detail, as hull and as box. */
    triangles: number[]
  }
export type Still = Schemas['Still']
export type Tally = Schemas['Tally']

export const api = createClient<paths>({ baseUrl: '' })

/** An answer that was not what was asked for, in the server's own words. */
export class ApiFailure extends Error {
  readonly code: string
  readonly seq?: number

  constructor(code: string, message: string, seq?: number) {
    super(message)
    this.code = code
    this.seq = seq
  }
}

interface Answer<T> {
  data?: T
  error?: unknown
  response: globalThis.Response
}

/** The data of an answer, or a failure. */
export async function wanted<T>(asked: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>
  try {
    answer = await asked
  } catch {
    throw new ApiFailure('offline', 'The server does not answer. Your changes are kept here and sent when it does.')
  }
  if (answer.response.ok) return answer.data as T
  throw failure(answer.error, answer.response.status)
}

export function failure(body: unknown, status: number): ApiFailure {
  const b = (body ?? {}) as { code?: string; message?: string; seq?: number }
  // Between the browser and a stopped server stand answers without a body of ours.
  if (!b.code && status >= 500) {
    return new ApiFailure('offline', 'The server does not answer. Your changes are kept here and sent when it does.')
  }
  return new ApiFailure(b.code ?? 'unknown', b.message ?? `The server answered ${status}.`, b.seq)
}

/** Fetches a binary buffer. */
export async function fetchBuffer(path: string, signal?: AbortSignal): Promise<ArrayBuffer> {
  const response = await fetch(path, { signal })
  if (response.ok) return response.arrayBuffer()
  throw failure(await response.json().catch(() => null), response.status)
}
