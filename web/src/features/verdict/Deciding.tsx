import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Complaint, Ready } from '../../components/Page'
import { answer, api, type Review, type Schemas } from '../../lib/api'
import { counted } from '../../lib/format'
import { useDeciding } from '../../lib/queries'

type Decidable = Schemas['Decidable']

/** Which measure decides, declared before the figures are opened; what was declared before stays. */
export function Deciding({ review }: { review: Review }) {
  const known = useDeciding(review.id)
  return (
    <section className="sheet grid gap-3" aria-label="What decides">
      <h2>What decides</h2>
      <Ready of={known}>
        {(d) => (
          <>
            {d.declared.length === 0 ? (
              <p className="text-soft">
                One measure may be declared before its figures are opened: its p are then adjusted among themselves, not
                among all of a comparison.
              </p>
            ) : (
              d.declared.map((s) => <p key={s}>{s}</p>)
            )}
            <Declare review={review} d={d} />
          </>
        )}
      </Ready>
    </section>
  )
}

function Declare({ review, d }: { review: Review; d: Decidable }) {
  const [measure, setMeasure] = useState('')
  const [against, setAgainst] = useState('0')
  const [of, setOf] = useState('')
  const declare = useMutation({
    mutationFn: (body: { measure: string; against?: Schemas['SetUpRef']; of?: Schemas['SetUpRef'] }) =>
      answer(api.POST('/api/v1/reviews/{id}/deciding', { params: { path: { id: review.id } }, body })),
    onSuccess: () => setMeasure(''),
  })
  if (d.set_ups.length < 2)
    return <p>Two set-ups, printed or planned, are needed before one can be declared against the other.</p>
  const ref = (at: string) => (at === '' ? undefined : d.set_ups[Number(at)]?.ref)
  const stands = review.deciding?.at(-1)?.measure
  return (
    <details open={d.declared.length === 0 && d.prints === 0}>
      <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
        {stands ? 'Declare another' : 'Declare what decides'}
      </summary>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault()
          declare.mutate({ measure, against: ref(against), of: ref(of) })
        }}
      >
        <div className="grid gap-3 sm:grid-cols-3">
          <Choice label="Measure" value={measure} set={setMeasure}>
            <option value="">choose</option>
            {d.measures.map((m) => (
              <option key={m.key} value={m.key}>
                {m.label}
              </option>
            ))}
          </Choice>
          <Choice label="Of" value={of} set={setOf}>
            <option value="">all set-ups</option>
            {d.set_ups.map((s, i) => (
              <option key={i} value={i}>
                {s.label}
              </option>
            ))}
          </Choice>
          <Choice label="Against" value={against} set={setAgainst}>
            {d.set_ups.map((s, i) => (
              <option key={i} value={i}>
                {s.label}
              </option>
            ))}
          </Choice>
        </div>
        {d.prints > 0 && (
          <p className="text-soft">{counted(d.prints, 'print')} of it are on record by now; the declaration says so.</p>
        )}
        {declare.isError && <Complaint>{declare.error.message}</Complaint>}
        <div className="flex flex-wrap gap-2">
          <button className="button" disabled={measure === '' || declare.isPending}>
            Declare it
          </button>
          {stands && (
            <button
              type="button"
              className="button"
              disabled={declare.isPending}
              onClick={() => declare.mutate({ measure: '' })}
            >
              No measure decides
            </button>
          )}
        </div>
      </form>
    </details>
  )
}

function Choice({
  label,
  value,
  set,
  children,
}: {
  label: string
  value: string
  set: (v: string) => void
  children: React.ReactNode
}) {
  return (
    <label className="min-w-0 text-sm font-semibold">
      {label}
      <select className="input font-normal" value={value} onChange={(e) => set(e.target.value)}>
        {children}
      </select>
    </label>
  )
}
