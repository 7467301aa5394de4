import { useMutation } from '@tanstack/react-query'
import { ArrowDown, ArrowUp } from 'lucide-react'
import { useState } from 'react'
import { Complaint } from '../../components/Page'
import { answer, api, type Review } from '../../lib/api'
import { counted } from '../../lib/format'
import { useDeciding } from '../../lib/queries'

interface Row {
  profile_id: string
  since: string
  label: string
  name: string
}

/** What the set-ups of a review are called, and in which order they stand. */
export function SetUpNames({ review }: { review: Review }) {
  const known = useDeciding(review.id).data?.set_ups
  if (!known || known.length === 0) return null
  const named = (r: { profile_id: string; since?: string }) =>
    review.set_ups?.find((n) => n.profile_id === r.profile_id && (n.since ?? '') === (r.since ?? ''))?.name ?? ''
  const rows = known.map((s) => ({
    profile_id: s.ref.profile_id,
    since: s.ref.since ?? '',
    label: s.about,
    name: named(s.ref),
  }))
  return (
    <section className="sheet" aria-label="Set-ups">
      <details>
        <summary className="min-h-(--tap) cursor-pointer content-center">
          <h2 className="inline">Set-ups: {counted(rows.length, 'set-up')}</h2>{' '}
          <span className="text-soft">name and order them</span>
        </summary>
        <Names key={rows.map((r) => r.profile_id + r.since).join()} review={review} initial={rows} />
      </details>
    </section>
  )
}

function Names({ review, initial }: { review: Review; initial: Row[] }) {
  const [rows, setRows] = useState(initial)
  const save = useMutation({
    mutationFn: () =>
      answer(
        api.PUT('/api/v1/reviews/{id}/set-ups', {
          params: { path: { id: review.id } },
          body: { names: rows.map(({ profile_id, since, name }) => ({ profile_id, since, name })) },
        }),
      ),
  })
  const edit = (next: (old: Row[]) => Row[]) => {
    save.reset()
    setRows(next)
  }
  const move = (from: number, by: number) =>
    edit((old) => {
      const next = [...old]
      const [row] = next.splice(from, 1)
      next.splice(from + by, 0, row!)
      return next
    })
  return (
    <form
      className="mt-2 grid gap-2"
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate()
      }}
    >
      {rows.map((r, i) => (
        <div key={r.profile_id + r.since} className="flex flex-wrap items-center gap-2">
          <button
            type="button"
            className="button"
            aria-label={`Move ${r.label} up`}
            disabled={i === 0}
            onClick={() => move(i, -1)}
          >
            <ArrowUp size={18} aria-hidden />
          </button>
          <button
            type="button"
            className="button"
            aria-label={`Move ${r.label} down`}
            disabled={i === rows.length - 1}
            onClick={() => move(i, 1)}
          >
            <ArrowDown size={18} aria-hidden />
          </button>
          <input
            className="input min-w-0 basis-56"
            aria-label={`Name of ${r.label}`}
            placeholder="by what tells it apart"
            value={r.name}
            onChange={(e) => edit((old) => old.map((o, k) => (k === i ? { ...o, name: e.target.value } : o)))}
          />
          <span className="min-w-0 grow basis-60 text-sm text-soft">{r.label}</span>
        </div>
      ))}
      {save.isError && <Complaint>{save.error.message}</Complaint>}
      <div className="flex items-center gap-3">
        <button className="button" disabled={save.isPending}>
          Save names and order
        </button>
        <span role="status" className="text-soft">
          {save.isSuccess && 'Saved'}
        </span>
      </div>
    </form>
  )
}
