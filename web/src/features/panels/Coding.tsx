import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { choices, type Kind } from '../../lib/choices'
import { counted } from '../../lib/format'

type Sheet = Schemas['PanelSheet']
type Coded = Schemas['CodeFor']

const coders = choices<Kind<'CodingBody', 'as'>>({
  assistant: 'an assistant, who then leaves the room: double-blind',
  reviewer: 'the reviewer, who knows and cannot vote',
})

/** Codes are put on in one sitting, by one person: scan a copy, put its card on, bag it. */
export function Coding({ s, kept }: { s: Sheet; kept: (s: Sheet) => void }) {
  if (s.panel.shows === 'photographs') {
    return (
      <section className="sheet grid gap-2" aria-label="Codes">
        <h2>The program has coded the photographs</h2>
        <p>Nobody knows which is which; judges see them drawn anew, without tags, all on a ground of one size.</p>
      </section>
    )
  }
  return (
    <section className="sheet grid gap-3" aria-label="Codes">
      <h2>Put the codes on</h2>
      <ol className="list-decimal pl-5">
        <li>
          <Link to={`/verdict/panels/${s.panel.id}/cards`}>Print the cards</Link>, one for each copy.
        </li>
        <li>In one sitting, scan each copy below and bag it with the card of the code that is told.</li>
        <li>Shuffle the bags, and seal the panel. Whoever did this knows, and does not vote.</li>
      </ol>
      <CodeOne s={s} kept={kept} />
      <ul className="flex flex-wrap gap-2" aria-label="Copies to code">
        {s.to_code.map((c) => (
          <li key={c.id} className="num border border-line px-2 py-1 whitespace-nowrap">
            {c.code}{' '}
            <span className={c.coded ? 'font-semibold' : 'text-soft'}>{c.coded ? '✓ coded' : 'no code yet'}</span>
          </li>
        ))}
      </ul>
    </section>
  )
}

function CodeOne({ s, kept }: { s: Sheet; kept: (s: Sheet) => void }) {
  const client = useQueryClient()
  const [name, setName] = useState(s.panel.coder ?? '')
  const [as, setAs] = useState<Kind<'CodingBody', 'as'>>(s.panel.coded_by === 'reviewer' ? 'reviewer' : 'assistant')
  const [label, setLabel] = useState('')
  const [told, setTold] = useState<Coded>()
  const path = { id: s.panel.id ?? '' }
  const code = useMutation({
    mutationFn: () =>
      answer(api.POST('/api/v1/panels/{id}/coding', { params: { path }, body: { name, as, specimen: label } })),
    onMutate: () => setTold(undefined),
    onSuccess: (c) => {
      setTold(c)
      setLabel('')
      // Not waited for: the next label may be scanned at once, and would be swallowed.
      void client
        .fetchQuery({
          queryKey: ['panels', path.id],
          staleTime: 0,
          queryFn: () => answer(api.GET('/api/v1/panels/{id}', { params: { path } })),
        })
        .then(kept)
    },
  })
  const begun = (s.panel.coder ?? '') !== ''
  return (
    <form
      className="grid gap-3"
      aria-label="Code a copy"
      onSubmit={(e) => {
        e.preventDefault()
        code.mutate()
      }}
    >
      <div className="grid items-end gap-3 sm:grid-cols-3">
        <label className="text-sm font-semibold">
          Who puts the codes on
          <input
            className="input font-normal"
            value={name}
            disabled={begun}
            onChange={(e) => setName(e.target.value)}
          />
        </label>
        <label className="text-sm font-semibold">
          That is
          <select
            className="input font-normal"
            value={as}
            disabled={begun}
            onChange={(e) => setAs(e.target.value as Kind<'CodingBody', 'as'>)}
          >
            {coders.map((c) => (
              <option key={c.value} value={c.value}>
                {c.label}
              </option>
            ))}
          </select>
        </label>
        <label className="text-sm font-semibold">
          Label of the copy, scanned or typed
          <input
            className="input num font-normal"
            value={label}
            autoComplete="off"
            onChange={(e) => setLabel(e.target.value)}
          />
        </label>
      </div>
      <div>
        <button className="button button-main" disabled={code.isPending || label.trim() === '' || name.trim() === ''}>
          Tell its code
        </button>
      </div>
      <p role="status" className={told ? 'border-l-4 border-act pl-3 text-lg' : 'sr-only'}>
        {told && (
          <>
            On <span className="num whitespace-nowrap">{told.specimen}</span> goes{' '}
            <strong className="num text-2xl">{told.code}</strong>.{' '}
            {told.left === 0 ? 'That was the last.' : `${counted(told.left, 'copy', 'copies')} left.`}
          </>
        )}
      </p>
      {code.isError && <Complaint>{code.error.message}</Complaint>}
    </form>
  )
}
