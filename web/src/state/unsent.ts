import type { Command, Schemas } from '../api/client'

export type Conflict = Schemas['Conflict']

/** Something an artist wished that the database has not acknowledged. */
export interface Wish {
  /** Its name on the server: however often it is sent, it is carried out once. */
  id: string
  command?: Command
  history?: 'undo' | 'redo'
  /** What an undo or redo takes back, by name, where that was not acknowledged yet when it was wished. */
  of?: string[]
  gesture?: string
  /** Wishes with the same key replace one another while they wait: only the last value of a drag matters. */
  key?: string
  /** The last edit that had been seen when it was wished. */
  seen: number
  /** When it was wished, milliseconds since 1970. */
  at: number
  /** It was sent at least once, and may have been carried out: it is only sent again as it is. */
  tried?: boolean
  /** Another was faster; the artist decides. */
  conflict?: { seq: number; of: Conflict }
}

const PREFIX = 'rookery.unsent'
/** Names this page among the pages of this browser. */
const page = crypto.randomUUID()
const nameOf = (scene: string, of: string) => `${PREFIX}.${scene}.${of}`

/** Keeps what is not acknowledged where a reload finds it. */
export function keepUnsent(scene: string, wishes: Wish[]) {
  try {
    if (wishes.length > 0) localStorage.setItem(nameOf(scene, page), JSON.stringify(wishes))
    else localStorage.removeItem(nameOf(scene, page))
  } catch {
    // No room or no storage: it is kept as long as the page lives.
  }
}

/** Marks this page as alive, so that no other takes over what it has not sent yet. */
export function holdPage(): Promise<void> {
  if (!('locks' in navigator)) return Promise.resolve()
  return new Promise((held) => {
    void navigator.locks.request(nameOf('page', page), () => {
      held()
      return new Promise(() => {})
    })
  })
}

/** What pages that are gone have left unsent of a scene, oldest first. It is let go of there once it is kept here. */
export async function leftUnsent(scene: string): Promise<{ wishes: Wish[]; letGo: () => void }> {
  const found: Wish[] = []
  const read: string[] = []
  const letGo = () => read.forEach((name) => localStorage.removeItem(name))
  let names: string[] = []
  try {
    names = Object.keys(localStorage).filter((k) => k.startsWith(`${PREFIX}.${scene}.`))
  } catch {
    return { wishes: found, letGo }
  }
  for (const name of names) {
    const owner = name.slice(name.lastIndexOf('.') + 1)
    if (owner === page || !(await isGone(owner))) continue
    try {
      const wishes: unknown = JSON.parse(localStorage.getItem(name) ?? '[]')
      if (Array.isArray(wishes)) found.push(...(wishes as Wish[]).filter((w) => typeof w?.id === 'string'))
    } catch {
      // What cannot be read cannot be sent.
    }
    read.push(name)
  }
  return { wishes: found.sort((a, b) => a.at - b.at), letGo }
}

async function isGone(owner: string): Promise<boolean> {
  if (!('locks' in navigator)) return true
  return navigator.locks.request(nameOf('page', owner), { ifAvailable: true }, async (lock) => lock !== null)
}
