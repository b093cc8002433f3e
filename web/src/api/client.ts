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
export type Run = Schemas['Run']
export type Tally = Schemas['Tally']

export const api = createClient<paths>({ baseUrl: '' })

/** `away`: nothing to be had now; `slow`: no answer in time, it may have been done; `fault`: the server's own; `refused`: its word. */
export type FailureKind = 'away' | 'slow' | 'fault' | 'refused'

/** An answer that was not what was asked for, in the server's own words. */
export class ApiFailure extends Error {
  readonly code: string
  readonly kind: FailureKind
  readonly seq?: number
  readonly conflict?: Schemas['Conflict']
  readonly retryAfterMs?: number

  constructor(code: string, message: string, more: Partial<Pick<ApiFailure, 'kind' | 'seq' | 'conflict' | 'retryAfterMs'>> = {}) {
    super(message)
    this.code = code
    this.kind = more.kind ?? 'refused'
    this.seq = more.seq
    this.conflict = more.conflict
    this.retryAfterMs = more.retryAfterMs
  }
}

interface Answer<T> {
  data?: T
  error?: unknown
  response: globalThis.Response
}

const KEPT = 'What you do is kept here and sent when it answers.'

/** The data of an answer, or a failure. */
export async function wanted<T>(asked: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>
  try {
    answer = await asked
  } catch (e) {
    throw unanswered(e)
  }
  if (answer.response.ok) return answer.data as T
  throw failure(answer.error, answer.response.status, answer.response.headers)
}

function unanswered(e: unknown): ApiFailure {
  const late = e instanceof DOMException && (e.name === 'TimeoutError' || e.name === 'AbortError')
  if (late) return new ApiFailure('slow', `The server is slow to answer. ${KEPT}`, { kind: 'slow' })
  return new ApiFailure('offline', `The server does not answer. ${KEPT}`, { kind: 'away' })
}

export function failure(body: unknown, status: number, headers?: Headers): ApiFailure {
  const b = (typeof body === 'object' && body ? body : {}) as { code?: string; message?: string; seq?: number; conflict?: Schemas['Conflict'] }
  const seconds = Number(headers?.get('retry-after'))
  const retryAfterMs = seconds > 0 ? seconds * 1000 : undefined
  // Between the browser and the server stand others, whose answers are not ours.
  const kind = status === 429 || status === 408 || status === 504 ? 'slow' : status === 502 || status === 503 ? 'away' : status >= 500 ? 'fault' : 'refused'
  if (!b.code && kind === 'slow') return new ApiFailure('slow', `The server is slow to answer. ${KEPT}`, { kind, retryAfterMs })
  if (!b.code && kind === 'away') return new ApiFailure('offline', `The server does not answer. ${KEPT}`, { kind, retryAfterMs })
  return new ApiFailure(b.code ?? 'unknown', b.message ?? `The server answered ${status}.`, { kind, retryAfterMs, seq: b.seq, conflict: b.conflict })
}

/** Fetches a binary buffer. */
export async function fetchBuffer(path: string, signal?: AbortSignal): Promise<ArrayBuffer> {
  const response = await fetch(path, { signal })
  if (response.ok) return response.arrayBuffer()
  throw failure(await response.json().catch(() => null), response.status, response.headers)
}
