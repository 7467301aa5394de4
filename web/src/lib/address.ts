import { useEffect, useRef } from 'react'
import { useSearchParams } from 'react-router'

/** What a page keeps in its address. Two changes in quick succession both count: the second builds on what the first asked for. */
export function useAddress() {
  const [params, setParams] = useSearchParams()
  const latest = useRef(params)
  useEffect(() => {
    latest.current = params
  }, [params])
  /** Edits the address; a step is one that the way back returns from. */
  const change = (edit: (next: URLSearchParams) => void, step = false) => {
    const next = new URLSearchParams(latest.current)
    edit(next)
    latest.current = next
    setParams(next, { replace: !step })
  }
  return [params, change] as const
}
