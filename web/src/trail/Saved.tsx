import { useEffect, useState } from 'react'
import { useScene } from '../state/scene'
import { Hint } from '../ui/Hint'

const SAY = {
  saved: ['Saved', 'text-fern', 'Every change is in the database.'],
  saving: ['Saving', 'text-soft', 'The last change is on its way.'],
  slow: ['Slow', 'text-lichen', 'No answer has come yet.'],
  away: ['Not saved', 'text-iron', 'The server does not answer.'],
} as const

/** Younger changes are not counted out: most are saved before one could read it. */
const QUIET_S = 2

/** Whether all that was done is safe; if not, how much is not, since when, and what happens with it. */
export function Saved() {
  const { state, waiting, since, why } = useScene((s) => s.saving)
  const hurry = useScene((s) => s.hurry)
  const seconds = useAge(since)
  const [word, colour, more] = SAY[state]
  const late = waiting > 0 && (state === 'slow' || state === 'away' || seconds >= QUIET_S)
  const text = late ? `${word} · ${waiting} · ${age(seconds)}` : word
  const what = waiting === 1 ? `One change is kept in this browser, for ${age(seconds)}; it is` : `${waiting} changes are kept in this browser, the oldest for ${age(seconds)}; they are`
  const kept = `${why ? sentence(why) : more} ${what} sent again until saved, even after a reload. Click to try now.`
  return (
    <Hint text={late ? kept : more}>
      <button
        type="button"
        data-testid="saved"
        data-state={state}
        onClick={hurry}
        className={`min-w-16 rounded px-1 text-center whitespace-nowrap tabular-nums ${colour}`}
      >
        <span role="status">{text}</span>
      </button>
    </Hint>
  )
}

/** What is wrong as a sentence of its own, without what follows from it. */
const sentence = (why: string) => `${why.charAt(0).toUpperCase()}${why.slice(1).split(/[;.]/)[0]}.`

const age = (seconds: number) => (seconds < 60 ? `${seconds} s` : `${Math.floor(seconds / 60)} min`)

/** Seconds since then, counted on. */
function useAge(since: number): number {
  const [now, setNow] = useState(() => Date.now())
  useEffect(() => {
    if (since === 0) return
    setNow(Date.now())
    const timer = setInterval(() => setNow(Date.now()), 1000)
    return () => clearInterval(timer)
  }, [since])
  return since === 0 ? 0 : Math.max(0, Math.floor((now - since) / 1000))
}
