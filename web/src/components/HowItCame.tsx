import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api, type Schemas } from '../lib/api'
import { choices, type Kind } from '../lib/choices'
import { orNull } from '../lib/input'
import { Complaint } from './Page'
import { TakeBack } from './TakeBack'

type Interest = Schemas['Interest']
export type Subject = 'machine' | 'resin' | 'piece' | 'reference' | 'review'

const ways = choices<Kind<'Interest', 'how'>>({
  bought: 'bought',
  discounted: 'bought at a reduced price',
  lent: 'lent',
  given: 'given, to keep',
  pre_production: 'a pre-production sample',
  own_work: 'own work',
  free_file: 'a file that is free for all',
  code: 'I earn by a code',
  commission: 'I was paid for this',
  advertising: 'I carry advertising',
  none: 'no tie to anybody',
})

/** How a thing came to the reviewer, and what else ties them to its maker: reviews disclose it by themselves. */
export function HowItCame({ of, id }: { of: Subject; id: string }) {
  const client = useQueryClient()
  const ties = useQuery({
    queryKey: ['interests', id],
    queryFn: () => answer(api.GET('/api/v1/interests', { params: { query: { of: id } } })),
  })
  const kept = (list: Schemas['InterestShown'][]) => client.setQueryData(['interests', id], list)
  if (!ties.data) return null
  return (
    <div className="grid gap-2">
      {ties.data.length > 0 && (
        <ul className="grid gap-2">
          {ties.data.map(({ interest: i, says }) => (
            <li key={i.id} className="flex flex-wrap items-center gap-3">
              <span className={`min-w-0 wrap-anywhere ${i.taken_back_ms ? 'text-soft line-through' : ''}`}>{says}</span>
              {i.taken_back_ms ? (
                <span className="text-sm text-soft">taken back: {i.taken_back_why}</span>
              ) : (
                <TakeBack
                  what={says}
                  take={async (why) =>
                    kept(
                      await answer(
                        api.POST('/api/v1/interests/{id}/taking-back', {
                          params: { path: { id: i.id ?? '' } },
                          body: { why },
                        }),
                      ),
                    )
                  }
                />
              )}
            </li>
          ))}
        </ul>
      )}
      <TieForm of={of} id={id} kept={kept} />
    </div>
  )
}

function TieForm({ of, id, kept }: { of: Subject; id: string; kept: (l: Schemas['InterestShown'][]) => void }) {
  const [how, setHow] = useState('')
  const [whom, setWhom] = useState('')
  const [day, setDay] = useState('')
  const [note, setNote] = useState('')
  const keep = useMutation({
    mutationFn: () => {
      const body: Interest = { how: how as Interest['how'], whom, day: orNull(day), note, [`${of}_id`]: id }
      return answer(api.POST('/api/v1/interests', { body }))
    },
    onSuccess: (list) => {
      kept(list)
      for (const set of [setHow, setWhom, setDay, setNote]) set('')
    },
  })
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(e) => {
        e.preventDefault()
        keep.mutate()
      }}
    >
      <label className="text-sm font-semibold">
        How it came, or what ties you
        <select className="input font-normal" value={how} onChange={(e) => setHow(e.target.value)}>
          <option value="">choose</option>
          {ways.map((w) => (
            <option key={w.value} value={w.value}>
              {w.label}
            </option>
          ))}
        </select>
      </label>
      {how !== '' && (
        <>
          <label className="text-sm font-semibold">
            From or by whom
            <input className="input font-normal" value={whom} onChange={(e) => setWhom(e.target.value)} />
          </label>
          <label className="text-sm font-semibold">
            Day
            <input type="date" className="input num font-normal" value={day} onChange={(e) => setDay(e.target.value)} />
          </label>
          <label className="min-w-0 grow basis-40 text-sm font-semibold">
            Note
            <input className="input font-normal" value={note} onChange={(e) => setNote(e.target.value)} />
          </label>
          <button className="button" disabled={keep.isPending}>
            Note it
          </button>
        </>
      )}
      {keep.isError && <Complaint>{keep.error.message}</Complaint>}
    </form>
  )
}

/** The same as a section of the page of its thing. */
export function HowItCameSection({ of, id }: { of: Subject; id: string }) {
  return (
    <section className="sheet grid gap-2" aria-label="How it came">
      <h2>How it came</h2>
      <p className="text-soft">Reviews disclose it by themselves, and it stands at each finding that it touches.</p>
      <HowItCame of={of} id={id} />
    </section>
  )
}
