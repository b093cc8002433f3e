import { useEffect, useRef, useState } from 'react'

const REST_MS = 350

/**
 * A content key that follows at once when the thing itself changes, and only after a rest when what it stands on does: while
 * the ground is sculpted, what stands on it waits for the end of the stroke.
 */
export function useSettledKey(key: string | undefined, own: string): string | undefined {
  const [settled, setSettled] = useState(key)
  const last = useRef(own)
  const changed = last.current !== own
  useEffect(() => {
    last.current = own
    if (changed || settled === undefined) {
      setSettled(key)
      return
    }
    const timer = window.setTimeout(() => setSettled(key), REST_MS)
    return () => window.clearTimeout(timer)
  }, [key, own, changed, settled])
  return changed ? key : settled
}
