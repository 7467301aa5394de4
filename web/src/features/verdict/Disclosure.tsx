import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { HowItCame } from '../../components/HowItCame'
import { answer, api, type Review, type Schemas } from '../../lib/api'
import { counted, listed } from '../../lib/format'

/** What a review has to disclose: how each machine, resin, piece and reference came, and what is still to be said. */
export function Disclosure({ review }: { review: Review }) {
  const id = review.id ?? ''
  const list = useQuery({
    queryKey: ['disclosure', id],
    queryFn: () => answer(api.GET('/api/v1/reviews/{id}/disclosure', { params: { path: { id } } })),
  })
  if (!list.data) return null
  const wanting = list.data.filter((d) => d.says.length === 0)
  const whole = list.data.find((d) => d.kind === 'review') ?? {
    kind: 'review' as const,
    id,
    name: 'This review',
    says: [],
  }
  return (
    <section className="sheet grid gap-2" aria-label="Disclosure">
      <details>
        <summary className="min-h-(--tap) cursor-pointer content-center">
          <strong>Disclosure</strong>{' '}
          <span className="text-soft">
            {wanting.length === 0
              ? 'how everything came is on record'
              : `how ${counted(wanting.length, 'thing')} came is not on record: ${listed(wanting.map((d) => d.name))}`}
          </span>
        </summary>
        <p className="text-soft">It writes itself from how things came, and stands at each finding that it touches.</p>
        <ul className="grid">
          {[whole, ...list.data.filter((d) => d.kind !== 'review')].map((d) => (
            <Thing key={d.id} d={d} />
          ))}
        </ul>
      </details>
    </section>
  )
}

function Thing({ d }: { d: Schemas['Disclosed'] }) {
  const [open, setOpen] = useState(false)
  const unsaid = d.kind === 'review' ? 'nothing said of it as a whole' : 'how it came is not on record'
  return (
    <li className="border-t border-line py-1">
      <details onToggle={(e) => setOpen(e.currentTarget.open)}>
        <summary className="min-h-(--tap) cursor-pointer content-center wrap-anywhere">
          <strong>{d.name}</strong> <span className="text-soft">{d.kind !== 'review' && `(${d.kind}) `}</span>
          {d.says.join('; ') || <span className="text-soft">{unsaid}</span>}
        </summary>
        {open && <HowItCame of={d.kind} id={d.id} />}
      </details>
    </li>
  )
}
