/**
 * Portraits take a second each to trace, and a browser opens only six connections to a server: two portraits at a time leave
 * room for the commands.
 */
const MOST = 2

interface Wish {
  begin(): void
}

const waiting: Wish[] = []
let busy = 0

function next() {
  while (busy < MOST && waiting.length > 0) {
    busy++
    waiting.shift()!.begin()
  }
}

/** Waits for a turn, behind all others or, when urgent, before them. The answer must be called once the picture is there, failed, or is not wanted any more. */
export function takeTurn(begin: () => void, urgent = false): () => void {
  const wish = { begin }
  let state: 'waiting' | 'begun' | 'over' = 'waiting'
  wish.begin = () => {
    state = 'begun'
    begin()
  }
  if (urgent) waiting.unshift(wish)
  else waiting.push(wish)
  next()
  return () => {
    if (state === 'over') return
    if (state === 'waiting') waiting.splice(waiting.indexOf(wish), 1)
    else busy--
    state = 'over'
    next()
  }
}
