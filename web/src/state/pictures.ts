import { failure, type Schemas } from '../api/client'

/** Sends a picture to be read and kept; no scene is changed by it. Throws with the words of what is wrong with it, which name it. */
export async function sendPicture(file: File): Promise<Schemas['PictureView']> {
  const response = await fetch('/api/pictures', { method: 'POST', body: file, headers: { 'content-type': 'application/octet-stream' } })
  const body = await response.json().catch(() => null)
  if (!response.ok) {
    const { message } = failure(body, response.status)
    // The server does not know what it is called.
    const said = message.replace('“the file”', `“${file.name}”`)
    throw new Error(said === message ? `${file.name}: ${message}` : said)
  }
  return body as Schemas['PictureView']
}
