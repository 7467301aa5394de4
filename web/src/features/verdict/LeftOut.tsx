import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { Effects } from '../../components/Effects'
import { Complaint, Ready } from '../../components/Page'
import { answer, api, type Review, type Schemas } from '../../lib/api'
import { useLeftOut, useSetUps } from '../../lib/queries'

type Left = Schemas['LeftOutPrint']

/** Prints that a review does without, each with its published reason and what that did to the figures. */
export function LeftOut({ review }: { review: Review }) {
  const list = useLeftOut(review.id)
  return (
    <section className="sheet grid gap-3" aria-label="Prints left out">
      <h2>Prints left out</h2>
      <p className="text-soft">
        A print that does not count stays on record. Its reason and what it did to the figures are published.
      </p>
      <Ready of={list}>
        {(prints) => (
          <>
            {prints.length > 0 && (
              <ul className="grid gap-3">
                {prints.map((p) => (
                  <Print key={p.run_id} p={p} review={review} />
                ))}
              </ul>
            )}
            <LeaveOut review={review} left={prints} />
          </>
        )}
      </Ready>
    </section>
  )
}

function Print({ p, review }: { p: Left; review: Review }) {
  const back = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/reviews/{id}/left-out/{run_id}/take-back', {
          params: { path: { id: review.id, run_id: p.run_id } },
        }),
      ),
  })
  return (
    <li className="border-t border-line pt-2">
      <div className="flex flex-wrap items-center gap-x-3">
        <Link className="num font-semibold" to={`/runs/${p.run_id}`}>
          {p.run}
        </Link>
        <span className="min-w-0 grow basis-60 wrap-anywhere">
          {p.reason} <span className="block text-sm text-soft">{p.set_up}</span>
        </span>
        <button className="button" onClick={() => back.mutate()} disabled={back.isPending}>
          Count {p.run} again
        </button>
      </div>
      {back.isError && <Complaint>{back.error.message}</Complaint>}
      <Effects of={p} />
    </li>
  )
}

function LeaveOut({ review, left }: { review: Review; left: Left[] }) {
  const setups = useSetUps(review.id)
  const [print, setPrint] = useState('')
  const [reason, setReason] = useState('')
  const leave = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/reviews/{id}/left-out', {
          params: { path: { id: review.id } },
          body: { run_id: print, reason },
        }),
      ),
    onSuccess: () => {
      setPrint('')
      setReason('')
    },
  })
  const codes = new Map((setups.data ?? []).flatMap((s) => s.run_ids.map((id, i) => [id, s.runs[i] ?? id] as const)))
  const prints = [...codes].filter(([id]) => !left.some((p) => p.run_id === id))
  if (prints.length === 0) return null
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(e) => {
        e.preventDefault()
        leave.mutate()
      }}
    >
      <label className="text-sm font-semibold">
        Print
        <select className="input font-normal" value={print} onChange={(e) => setPrint(e.target.value)}>
          <option value="">choose</option>
          {prints
            .sort((a, b) => a[1].localeCompare(b[1]))
            .map(([id, code]) => (
              <option key={id} value={id}>
                {code}
              </option>
            ))}
        </select>
      </label>
      <label className="min-w-0 grow basis-60 text-sm font-semibold">
        Why it does not count
        <input className="input font-normal" value={reason} onChange={(e) => setReason(e.target.value)} />
      </label>
      <button className="button" disabled={print === '' || reason.trim() === '' || leave.isPending}>
        Leave it out
      </button>
      {leave.isError && <Complaint>{leave.error.message}</Complaint>}
    </form>
  )
}
