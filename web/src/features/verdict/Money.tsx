import { Link } from 'react-router'
import type { Review } from '../../lib/api'
import { useMoney } from './useMoney'

/** What the machines of a review cost, equipped alike, in short. */
export function Money({ review }: { review: Review }) {
  const money = useMoney(review.id ?? '')
  if (!money.data) return null
  return (
    <section className="sheet grid gap-2" aria-label="Money">
      <h2>
        Money <span className="font-normal text-soft">prices equipped alike</span>
      </h2>
      <ul className="grid gap-1">
        {money.data.prices.machines.map((m) => (
          <li key={m.id} className="wrap-anywhere">
            <strong>{m.name}:</strong> {m.says}
            {m.changed && <span className="text-soft"> ({m.changed})</span>}
          </li>
        ))}
      </ul>
      <div>
        <Link className="button" to={`/verdict/${review.id}/money`}>
          Prices, equipment and ownership
        </Link>
      </div>
    </section>
  )
}
