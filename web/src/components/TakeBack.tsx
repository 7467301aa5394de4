import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Complaint } from './Page'

/** Takes an entry back once it is said why; it stays on record. It may stand in a form of another purpose. */
export function TakeBack({ what, take }: { what: string; take: (why: string) => Promise<unknown> }) {
  const [why, setWhy] = useState<string>()
  const back = useMutation({ mutationFn: take, onSuccess: () => setWhy(undefined) })
  if (why === undefined) {
    return (
      <button type="button" className="button" aria-label={`Take back ${what}`} onClick={() => setWhy('')}>
        Take back
      </button>
    )
  }
  return (
    <span className="flex flex-wrap items-end gap-2">
      <label className="text-sm font-semibold">
        Why it is taken back
        <input
          className="input font-normal"
          // The button that was pressed has gone: what it asks for stands in its place.
          autoFocus
          value={why}
          onChange={(e) => setWhy(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === 'Escape') setWhy(undefined)
            if (e.key !== 'Enter') return
            e.preventDefault()
            if (why.trim() !== '') back.mutate(why)
          }}
        />
      </label>
      <button
        type="button"
        className="button"
        disabled={why.trim() === '' || back.isPending}
        onClick={() => back.mutate(why)}
      >
        Take it back
      </button>
      {back.isError && <Complaint>{back.error.message}</Complaint>}
    </span>
  )
}
