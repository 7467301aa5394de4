import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { answer, api, type Review } from '../../lib/api'

/** What makers claim of the machines and their upgrades, each with what was measured. */
export function Claims({ review }: { review: Review }) {
  const claims = useQuery({
    queryKey: ['claims', review.id],
    queryFn: () => answer(api.GET('/api/v1/reviews/{id}/claims', { params: { path: { id: review.id } } })),
  })
  if (!claims.data || claims.data.length === 0) return null
  return (
    <section className="sheet grid gap-2" aria-label="What makers claim">
      <h2>What makers claim</h2>
      <div className="overflow-x-auto">
        <table className="rows w-full">
          <thead>
            <tr>
              <th scope="col">Machine</th>
              <th scope="col">Claimed ❝</th>
              <th scope="col">Measured ●</th>
            </tr>
          </thead>
          <tbody>
            {claims.data.map((c) => (
              <tr key={c.machine + c.claimed}>
                <th scope="row">{c.machine}</th>
                <td>{c.event_id ? <Link to={`/knots/${c.event_id}`}>{c.claimed}</Link> : c.claimed}</td>
                <td>{c.says}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="text-sm text-soft">Speeds are of this review’s prints, their first layers included.</p>
    </section>
  )
}
