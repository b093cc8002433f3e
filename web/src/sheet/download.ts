/** Asks the browser to keep a handoff as a file. */
export function download(scene: string, kind: 'glb' | 'csv' | 'json' | 'geojson', asks = '') {
  const link = document.createElement('a')
  link.href = `/api/scenes/${scene}/handoff/${kind}${asks}`
  link.download = ''
  document.body.append(link)
  link.click()
  link.remove()
}
