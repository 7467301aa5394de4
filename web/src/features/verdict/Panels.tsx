import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { answer, api, type Review } from '../../lib/api'

/** The blind panels of a review: what each asks, and what it showed or waits for. */
export function Panels({ review }: { review: Review }) {
  const panels = useQuery({
    queryKey: ['panels', 'of', review.id],
    queryFn: () => answer(api.GET('/api/v1/reviews/{id}/panels', { params: { path: { id: review.id } } })),
  })
  if (!panels.data) return null
  return (
    <section className="sheet grid gap-2" aria-label="Blind panels">
      <h2>Blind panels</h2>
      {panels.data.length === 0 && (
        <p className="text-soft">
          Whether a difference can be seen is settled by people who do not know which is which.
        </p>
      )}
      <ul className="grid gap-2">
        {panels.data.map((s) => (
          <li key={s.panel.id} className={s.state === 'taken_back' ? 'text-soft line-through' : ''}>
            <Link to={`/verdict/panels/${s.panel.id}`}>
              {s.panel.code}: {s.panel.question}
            </Link>{' '}
            {s.state === 'coding' && 'is not sealed yet.'}
            {s.state === 'voting' && `is sealed; ${s.cast} of ${s.panel.judges} have voted.`}
            {s.shown && <span className="wrap-anywhere">{s.shown.says[0]}</span>}
          </li>
        ))}
      </ul>
      <div>
        <Link className="button" to={`/verdict/${review.id}/panels/new`}>
          Ask a blind panel
        </Link>
      </div>
    </section>
  )
}
