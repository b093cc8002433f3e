/** How long the rest takes, in words. */
export function leftOf(seconds: number): string {
  if (seconds >= 5400) return `about ${(seconds / 3600).toFixed(1)} h left`
  if (seconds >= 90) return `about ${Math.round(seconds / 60)} min left`
  return `about ${Math.max(1, Math.round(seconds))} s left`
}
