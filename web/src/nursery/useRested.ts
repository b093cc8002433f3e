import { useEffect, useState } from 'react'

const REST_MS = 300

/** A value once it has rested: what is drawn anew for each is not drawn for those in between. */
export function useRested<T>(value: T): T {
  const [rested, setRested] = useState(value)
  useEffect(() => {
    const timer = window.setTimeout(() => setRested(value), REST_MS)
    return () => window.clearTimeout(timer)
  }, [value])
  return rested
}
