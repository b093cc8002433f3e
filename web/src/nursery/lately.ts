const KEY = 'rookery-lately'
/** As many as fit in one row. */
const MOST = 8

/** The species this person took last, the latest first. */
export function lately(): string[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(KEY) ?? '[]')
    return Array.isArray(kept) ? kept.filter((id) => typeof id === 'string').slice(0, MOST) : []
  } catch {
    // A browser that keeps nothing shows no such row.
    return []
  }
}

/** Puts species before those taken earlier. */
export function remember(ids: string[]) {
  try {
    localStorage.setItem(KEY, JSON.stringify([...ids, ...lately().filter((id) => !ids.includes(id))].slice(0, MOST)))
  } catch {
    // See above.
  }
}
