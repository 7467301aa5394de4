import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Complaint } from './Page'

export interface ScaleWords {
  name: string
  anchors: string[]
  conditions?: string
}

const blank: ScaleWords = { name: '', anchors: ['', '', '', '', ''] }

/** A scale of the reviewer's own: a name, and an anchor for each of its steps; conditions where a score may need them. */
export function OwnScale({
  keep,
  conditions,
}: {
  keep: (v: ScaleWords) => Promise<unknown>
  /** Example of the conditions that a score needs; without one none are asked for. */
  conditions?: string
}) {
  const [v, setV] = useState(blank)
  const define = useMutation({ mutationFn: () => keep(v), onSuccess: () => setV(blank) })
  return (
    <details>
      <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">A scale of your own</summary>
      <form
        className="grid gap-2"
        aria-label="A scale of your own"
        onSubmit={(e) => {
          e.preventDefault()
          define.mutate()
        }}
      >
        <label className="text-sm font-semibold">
          What is judged on it
          <input
            className="input font-normal"
            required
            value={v.name}
            onChange={(e) => setV({ ...v, name: e.target.value })}
          />
        </label>
        <div className="grid gap-2 sm:grid-cols-5">
          {v.anchors.map((anchor, i) => (
            <label key={i} className="text-sm font-semibold">
              Step <span className="num">{i}</span> is
              <input
                className="input font-normal"
                required
                value={anchor}
                onChange={(e) => setV({ ...v, anchors: v.anchors.map((a, at) => (at === i ? e.target.value : a)) })}
              />
            </label>
          ))}
        </div>
        {conditions && (
          <label className="text-sm font-semibold">
            Conditions that a score needs <span className="font-normal text-soft">optional</span>
            <input
              className="input font-normal"
              placeholder={conditions}
              value={v.conditions ?? ''}
              onChange={(e) => setV({ ...v, conditions: e.target.value })}
            />
          </label>
        )}
        {define.isError && <Complaint>{define.error.message}</Complaint>}
        {define.isSuccess && v === blank && <p role="status">Kept: it stands among the scales.</p>}
        <button className="button justify-self-start" disabled={define.isPending}>
          Keep this scale
        </button>
      </form>
    </details>
  )
}
