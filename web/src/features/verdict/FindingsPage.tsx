import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useParams } from 'react-router'
import { How } from '../../components/How'
import { Complaint, Empty, Page, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { counted } from '../../lib/format'
import { useReviews } from '../../lib/queries'
import { grades, RestsOn, type Row } from './Finding'
import { OwnFinding } from './OwnFinding'
import { PickedFinding } from './PickedFinding'

/** What a review found: the sentences that it publishes, and those that its record offers, each with its grade. */
export default function FindingsPage() {
  const { id = '' } = useParams()
  const review = useReviews().data?.find((r) => r.id === id)
  const client = useQueryClient()
  const sheet = useQuery({
    queryKey: ['findings', id],
    queryFn: () => answer(api.GET('/api/v1/reviews/{id}/findings', { params: { path: { id } } })),
  })
  const kept = (s: Schemas['FindingsSheet']) => client.setQueryData(['findings', id], s)
  return (
    <Page
      title="What was found"
      about={
        <>
          {review && <Link to={`/verdict/${id}`}>{review.question}</Link>} Pick what is published, put it in order and
          in your words. No finding may be said more strongly than its grade.
        </>
      }
    >
      <Ready of={sheet}>
        {(s) => (
          <>
            <Picked s={s} id={id} kept={kept} />
            <OwnFinding id={id} kept={kept} />
            <Offered rows={s.offered} id={id} kept={kept} />
          </>
        )}
      </Ready>
    </Page>
  )
}

interface Keeping {
  id: string
  kept: (s: Schemas['FindingsSheet']) => void
}

function Picked({ s, id, kept }: Keeping & { s: Schemas['FindingsSheet'] }) {
  const ids = s.picked.map((p) => p.finding.id ?? '')
  const order = useMutation({
    mutationFn: (next: string[]) =>
      answer(api.PUT('/api/v1/reviews/{id}/findings', { params: { path: { id } }, body: { ids: next } })),
    onSuccess: kept,
  })
  const move = (at: number, by: number) => {
    const next = ids.filter((_, i) => i !== at)
    next.splice(at + by, 0, ids[at] ?? '')
    order.mutate(next)
  }
  return (
    <section className="sheet grid gap-3" aria-label="Published findings">
      <h2>Published, in this order</h2>
      {s.picked.length === 0 && (
        <p className="text-soft">Nothing is picked yet. Pick from what the record offers below, the strongest first.</p>
      )}
      <ol className="grid gap-4">
        {s.picked.map((p, i) => (
          <PickedFinding
            key={p.finding.id}
            p={p}
            at={i + 1}
            up={i > 0 ? () => move(i, -1) : undefined}
            down={i < ids.length - 1 ? () => move(i, 1) : undefined}
            kept={kept}
          />
        ))}
      </ol>
      {order.isError && <Complaint>{order.error.message}</Complaint>}
    </section>
  )
}

function Offered({ rows, id, kept }: Keeping & { rows: Row[] }) {
  const [sought, setSought] = useState('')
  const found = rows.filter((r) => `${r.sentence} ${r.scope}`.toLowerCase().includes(sought.trim().toLowerCase()))
  if (rows.length === 0) {
    return (
      <Empty title="Nothing more is offered">
        A comparison of two set-ups of a piece, or a closed panel, offers findings.
        <Link to={`/compare?review=${id}`}>Compare</Link>
      </Empty>
    )
  }
  return (
    <section className="sheet grid gap-2" aria-label="Offered findings">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <h2>What the record offers</h2>
        <How figure="grades" of="What the record offers" />
      </div>
      <label className="max-w-md text-sm font-semibold">
        Only rows with
        <input
          className="input font-normal"
          placeholder="a piece, a measure, a machine"
          value={sought}
          onChange={(e) => setSought(e.target.value)}
        />
      </label>
      {found.length === 0 && <p className="text-soft">No row has “{sought}”.</p>}
      {grades.map(({ grade, means }) => {
        const of = found.filter((r) => r.grade === grade)
        if (of.length === 0) return null
        return (
          <details key={grade} open={of[0] === found[0]} className="border-t border-line pt-2">
            <summary className="min-h-(--tap) cursor-pointer content-center">
              <strong>{means}</strong> <span className="text-soft">{counted(of.length, 'row')}</span>
            </summary>
            <ul className="grid gap-3">
              {of.map((r) => (
                <Offer key={r.key} r={r} id={id} kept={kept} />
              ))}
            </ul>
          </details>
        )
      })}
    </section>
  )
}

function Offer({ r, id, kept }: Keeping & { r: Row }) {
  const pick = useMutation({
    mutationFn: () =>
      answer(api.POST('/api/v1/reviews/{id}/findings', { params: { path: { id } }, body: { key: r.key } })),
    onSuccess: kept,
  })
  return (
    <li className="grid gap-1 border-t border-line pt-2">
      <div className="flex flex-wrap items-start gap-x-4 gap-y-2">
        <p className="min-w-0 grow basis-80 wrap-anywhere">{r.sentence}</p>
        <button
          className="button"
          onClick={() => pick.mutate()}
          disabled={pick.isPending}
          aria-label={`Publish: ${r.sentence}`}
        >
          Publish
        </button>
      </div>
      <RestsOn r={r} />
      {pick.isError && <Complaint>{pick.error.message}</Complaint>}
    </li>
  )
}
