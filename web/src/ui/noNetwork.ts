/** For tests: what would be fetched never comes. A part of the page must stand without it, and say nothing to the console. */
globalThis.fetch = () => new Promise(() => undefined)
console.error = (...said: unknown[]) => {
  throw new Error(`the console was told: ${said.map(String).join(' ')}`)
}
