/** How long ago a still was asked for, and how much the scene was edited since. */
export function ageOf(still: { seq: number; created_at: string }, scene: number, now = Date.now()): string {
  const edits = scene - still.seq
  const since = edits <= 0 ? 'as the scene is now' : edits === 1 ? '1 edit since' : `${edits} edits since`
  return `${ago((now - new Date(still.created_at).getTime()) / 1000)}, ${since}`
}

function ago(seconds: number): string {
  if (seconds < 60) return 'just now'
  if (seconds < 3600) return `${Math.floor(seconds / 60)} min ago`
  if (seconds < 48 * 3600) return `${Math.floor(seconds / 3600)} h ago`
  return `${Math.floor(seconds / 86_400)} days ago`
}
