import { useEffect, useState } from 'react'

/** How long the keys rest before what was typed is asked about, in ms. */
const rest = 200

/** A value once it has stayed the same for a moment. */
export function useSettled<T>(value: T): T {
  const [settled, setSettled] = useState(value)
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), rest)
    return () => clearTimeout(timer)
  }, [value])
  return settled
}
