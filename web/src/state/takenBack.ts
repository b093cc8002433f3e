import type { Wish } from './unsent'

/**
 * What an undo or redo that is wished now means among what still waits: the names of the drag, or of the one change, that it takes back.
 * Nothing when that is acknowledged already, and the server knows best.
 */
export function takenBack(waiting: Wish[], history: 'undo' | 'redo'): string[] | undefined {
  const done: { gesture?: string; names: string[] }[] = []
  const undone: { names: string[] }[] = []
  for (const wish of waiting) {
    if (wish.conflict) continue
    const last = done.at(-1)
    if (wish.command && wish.gesture && last?.gesture === wish.gesture) last.names.push(wish.id)
    else if (wish.command) done.push({ gesture: wish.gesture, names: [wish.id] })
    else if (wish.history === 'undo') {
      done.pop()
      undone.push({ names: [wish.id] })
    } else {
      undone.pop()
      done.push({ names: [wish.id] })
    }
  }
  return (history === 'undo' ? done : undone).at(-1)?.names
}

/**
 * The queue after a change was not carried out: an undo that meant this one and nothing else goes too, or it would take back an older
 * change that nobody meant.
 */
export function withoutMoot(queue: Wish[], failed: string): Wish[] {
  const gone = [failed]
  return queue.flatMap((wish) => {
    if (!wish.of) return [wish]
    const of = wish.of.filter((name) => !gone.includes(name))
    if (of.length === wish.of.length) return [wish]
    if (of.length > 0) return [{ ...wish, of }]
    gone.push(wish.id)
    return []
  })
}
