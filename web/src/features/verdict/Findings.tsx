import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { answer, api, type Review } from '../../lib/api'
import { counted } from '../../lib/format'
import { Grade } from './Finding'

/** What a review publishes as found, in short, and how much more its record offers. */
export function Findings({ review }: { review: Review }) {
  const sheet = useQuery({
    queryKey: ['findings', review.id],
    queryFn: () => answer(api.GET('/api/v1/reviews/{id}/findings', { params: { path: { id: review.id } } })),
  })
  if (!sheet.data) return null
  const { picked, offered } = sheet.data
  const strong = offered.filter((r) => r.grade === 'showed' || r.grade === 'suggests').length
  return (
    <section className="sheet grid gap-2" aria-label="Findings">
      <h2>What was found</h2>
      {picked.length > 0 ? (
        <ol className="grid gap-2">
          {picked.map((p) => (
            <li key={p.finding.id} className="wrap-anywhere">
              <Grade grade={p.now?.grade ?? p.finding.grade} /> {p.says}
              {p.changed !== '' && <strong> It has changed since it was picked.</strong>}
            </li>
          ))}
        </ol>
      ) : (
        <p className="text-soft">Nothing is picked yet: the write-up has figures and no findings.</p>
      )}
      <div className="flex flex-wrap items-center gap-3">
        <Link className="button" to={`/verdict/${review.id}/findings`}>
          Pick and order findings
        </Link>
        <span className="text-soft">
          {offered.length === 0
            ? 'Two set-ups of a piece, or a closed panel, offer some.'
            : `The record offers ${counted(offered.length, 'row')} more, ${strong} of which show or suggest something.`}
        </span>
      </div>
    </section>
  )
}
