import type { Schemas } from '../../api/client'

/** A community as a file: JSON with all it needs. */
export function saveFile(community: Schemas['Community']) {
  const url = URL.createObjectURL(new Blob([JSON.stringify(community, null, 2)], { type: 'application/json' }))
  const a = Object.assign(document.createElement('a'), { href: url, download: `${community.name}.community.json` })
  a.click()
  URL.revokeObjectURL(url)
}

/** Reads a community file. What it holds is checked by the server. */
export async function readFile(file: File): Promise<Schemas['Community']> {
  try {
    return JSON.parse(await file.text()) as Schemas['Community']
  } catch {
    throw new Error(`\u201c${file.name}\u201d is not a community file: it is not JSON. Nothing was kept.`)
  }
}
