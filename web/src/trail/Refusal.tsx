import { TriangleAlert, X } from 'lucide-react'
import { useScene } from '../state/scene'
import { IconButton } from '../ui/IconButton'

/** What was not done, and why. What was there is untouched. */
export function Refusal() {
  const refusal = useScene((s) => s.refusal)
  const failure = useScene((s) => s.failure)
  const dismiss = useScene((s) => s.dismiss)
  const words = refusal ?? failure
  if (!words) return null
  return (
    <div
      role="alert"
      data-testid="refusal"
      className="absolute bottom-14 left-1/2 z-30 flex max-w-[34rem] -translate-x-1/2 items-start gap-2.5 rounded-md border border-iron bg-panel py-2 pr-2 pl-3 shadow-lg"
    >
      <TriangleAlert size={16} className="mt-0.5 shrink-0 text-iron" aria-hidden />
      <p>
        {refusal && <span className="font-medium">Not done; nothing was changed. </span>}
        {words.charAt(0).toUpperCase() + words.slice(1)}.
      </p>
      <IconButton icon={X} label="Dismiss" onClick={dismiss} />
    </div>
  )
}
