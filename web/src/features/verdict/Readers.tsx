import { Link } from 'react-router'
import { How } from '../../components/How'
import type { Review } from '../../lib/api'
import { useReaders } from './useReaders'

/** Who is best for each reader of a review, in short. */
export function Readers({ review }: { review: Review }) {
  const sheet = useReaders(review.id ?? '')
  if (!sheet.data) return null
  const { readers, says } = sheet.data
  return (
    <section className="sheet grid gap-2" aria-label="For whom">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <h2>For whom</h2>
        <How figure="readers" of="For whom" />
      </div>
      {readers.length === 0 && (
        <p className="text-soft">No reader is stated: what is best depends on who asks, and at what price.</p>
      )}
      <ul className="grid gap-2">
        {readers.map((r) => (
          <li key={r.reader.id} className="wrap-anywhere">
            <strong>{r.reader.name}:</strong> {r.says[0]}
          </li>
        ))}
      </ul>
      {says.map((s) => (
        <p key={s} className="text-sm text-soft">
          {s}
        </p>
      ))}
      <div>
        <Link className="button" to={`/verdict/${review.id}/readers`}>
          {readers.length === 0 ? 'State a reader' : 'Readers, weights and what turns it'}
        </Link>
      </div>
    </section>
  )
}
