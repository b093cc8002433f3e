import { api, wanted, type Schemas } from '../../api/client'

/** A community as a file: JSON with all it needs, the files of imported species too. */
export async function saveFile({ id, ready, community: listed }: Schemas['CommunityView']) {
  const community = ready ? listed : await wanted(api.GET('/api/communities/{community}/file', { params: { path: { community: id } } }))
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
