import { showNumber } from '../ui/parse'
import { failure, type Schemas } from './client'

const MOST_BYTES = 256 * 1024 * 1024

export interface ReadMesh {
  name: string
  view: Schemas['MeshView']
}

/** Sends a mesh file to be looked over and kept; nothing else is changed. */
export async function sendMesh(file: File): Promise<ReadMesh> {
  if (file.size > MOST_BYTES) throw new Error(`It has ${showNumber(file.size / 1048576, 0)} MB; the limit is 256 MB.`)
  const response = await fetch('/api/meshes', { method: 'POST', body: file, headers: { 'content-type': 'application/octet-stream' } })
  const body = await response.json().catch(() => null)
  if (!response.ok) throw failure(body, response.status)
  return { name: file.name.slice(0, 80), view: body as Schemas['MeshView'] }
}
