import { useScene } from '../state/scene'
import { Hint } from '../ui/Hint'

const SAY = {
  saved: ['Saved', 'text-fern', 'Every change is in the database.'],
  saving: ['Saving', 'text-soft', 'The last change is on its way.'],
  waiting: ['Not saved', 'text-iron', 'The server does not answer. Your last changes are kept here and sent when it does.'],
} as const

/** Whether the last change is safe. */
export function Saved() {
  const saving = useScene((s) => s.saving)
  const [word, colour, more] = SAY[saving]
  return (
    <Hint text={more}>
      <span role="status" data-testid="saved" tabIndex={0} className={`w-16 text-center ${colour}`}>
        {word}
      </span>
    </Hint>
  )
}
