import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { How } from '../../components/How'
import { answer, api, type Review } from '../../lib/api'
import { words } from '../../lib/format'

export const useLedger = (id: string) =>
  useQuery({
    queryKey: ['claims', id],
    queryFn: () => answer(api.GET('/api/v1/reviews/{id}/claims', { params: { path: { id } } })),
  })

/** What is claimed of the machines and resins of a review, each with what became of it, in short. */
export function Claims({ review }: { review: Review }) {
  const ledger = useLedger(review.id ?? '')
  if (!ledger.data) return null
  const { rows, counts } = ledger.data
  return (
    <section className="sheet grid gap-2" aria-label="What is claimed">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <h2>What is claimed</h2>
        <How figure="claims" of="What is claimed" />
      </div>
      {rows.length === 0 ? (
        <p className="text-soft">
          No claim is written down yet. Makers’ numbers, a seller’s promise, another’s verdict: write it down as it was
          made, and what is measured stands beside it.
        </p>
      ) : (
        <>
          <p>{counts.map((c) => `${c.n} ${words(c.state)}`).join(', ')}</p>
          <ul className="grid gap-1">
            {rows.slice(0, 6).map((r) => (
              <li key={r.key} className="wrap-anywhere">
                <strong>{r.subject}</strong> “{r.words}”: <strong>{words(r.state)}</strong>
              </li>
            ))}
          </ul>
        </>
      )}
      <div>
        <Link className="button" to={`/verdict/${review.id}/claims`}>
          {rows.length > 0 ? 'Open the ledger of claims' : 'Write a claim down'}
        </Link>
      </div>
    </section>
  )
}
