/** How much the scene was edited since a still was taken of it. */
export function ageOf(still: number, scene: number): string {
  const edits = scene - still
  if (edits <= 0) return 'as the scene is now'
  return edits === 1 ? '1 edit ago' : `${edits} edits ago`
}
