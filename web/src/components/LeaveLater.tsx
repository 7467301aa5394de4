import { useEffect } from 'react'
import { useBlocker } from 'react-router'

/**
 * Holds a page that is left while something on it is still being kept: it says what is not kept yet, leaves by itself
 * once that is done, and sooner where it is told to.
 */
export function LeaveLater({ busy, waits }: { busy: boolean; waits: string }) {
  const blocker = useBlocker(busy)
  const held = blocker.state === 'blocked'
  useEffect(() => {
    if (held && !busy) blocker.proceed()
  }, [held, busy, blocker])
  useEffect(() => {
    if (!busy) return
    const ask = (e: BeforeUnloadEvent) => e.preventDefault()
    window.addEventListener('beforeunload', ask)
    return () => window.removeEventListener('beforeunload', ask)
  }, [busy])
  if (!held) return null
  return (
    <div role="alert" className="sheet flex flex-wrap items-center gap-3 border-l-4 border-l-act">
      <p className="min-w-60 flex-1 font-semibold">Not kept yet: {waits}. This page is left once they are kept.</p>
      <button type="button" className="button" onClick={() => blocker.reset()}>
        Stay
      </button>
      <button type="button" className="button" onClick={() => blocker.proceed()}>
        Leave without them
      </button>
    </div>
  )
}
