import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { moment } from '../../lib/format'

type Sheet = Schemas['PanelSheet']

const ways: Record<Schemas['BallotLine']['way'], string> = {
  '': '',
  table: 'at the table',
  link: 'by link',
  file: 'by file',
}

/** Who has voted: how the ballots reach the judges, and leave to vote again. */
export function Ballots({ s, kept }: { s: Sheet; kept: (s: Sheet) => void }) {
  const open = s.state === 'voting'
  return (
    <section className="sheet grid gap-3" aria-label="Ballots">
      <h2>
        Ballots: <span className="num">{s.cast}</span> of <span className="num">{s.panel.judges}</span> cast
      </h2>
      {open && <Ways s={s} kept={kept} />}
      <div className="overflow-x-auto">
        <table className="rows">
          <thead>
            <tr>
              <th scope="col">Judge</th>
              <th scope="col">Voted</th>
              <th scope="col">Name, if given</th>
              {open && <th scope="col">Again</th>}
            </tr>
          </thead>
          <tbody>
            {s.ballots.map((b) => (
              <tr key={b.judge}>
                <th scope="row" className="num">
                  {b.judge}
                </th>
                <td>
                  {b.cast_ms == null ? 'not yet' : `${moment(b.cast_ms)}, ${ways[b.way]}`}
                  {b.again.map((why, i) => (
                    <span key={i} className="block text-sm text-soft">
                      a ballot before it was set aside: {why}
                    </span>
                  ))}
                </td>
                <td className="wrap-anywhere">{b.name}</td>
                {open && <td>{b.cast_ms != null && <Again s={s} judge={b.judge} kept={kept} />}</td>}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
}

function Ways({ s, kept }: { s: Sheet; kept: (s: Sheet) => void }) {
  const id = s.panel.id ?? ''
  const take = useMutation({
    mutationFn: async (files: File[]) => {
      for (const file of files) {
        let body: Schemas['AnswersFile']
        try {
          body = JSON.parse(await file.text()) as Schemas['AnswersFile']
        } catch {
          throw new Error(`${file.name} is no file of answers: it cannot be read.`)
        }
        kept(await answer(api.POST('/api/v1/panels/{id}/answer-files', { params: { path: { id } }, body })))
      }
    },
  })
  return (
    <>
      <div className="flex flex-wrap items-center gap-2">
        {s.next_token !== '' && (
          <Link className="button button-main" to={`/verdict/panels/${id}/table`}>
            Hand this device round
          </Link>
        )}
        <Link className="button" to={`/verdict/panels/${id}/links`}>
          Print links for judges’ own phones
        </Link>
        {s.panel.shows === 'photographs' && (
          <>
            <a className="button" href={`/api/v1/panels/${id}/guess-page.html`} download>
              Save a page to guess on
            </a>
            <label className="button">
              Take files of answers
              <input
                type="file"
                multiple
                accept=".json,application/json"
                className="sr-only"
                onChange={(e) => {
                  take.mutate([...(e.target.files ?? [])])
                  e.target.value = ''
                }}
              />
            </label>
          </>
        )}
      </div>
      {take.isError && <Complaint>{take.error.message}</Complaint>}
    </>
  )
}

/** Leave to vote again: the first ballot stays on record and counts no more. */
function Again({ s, judge, kept }: { s: Sheet; judge: number; kept: (s: Sheet) => void }) {
  const [why, setWhy] = useState<string>()
  const again = useMutation({
    mutationFn: (reason: string) =>
      answer(
        api.POST('/api/v1/panels/{id}/ballots/{judge}/again', {
          params: { path: { id: s.panel.id ?? '', judge } },
          body: { why: reason },
        }),
      ),
    onSuccess: kept,
  })
  if (why === undefined) {
    return (
      <button className="button" aria-label={`Let judge ${judge} vote again`} onClick={() => setWhy('')}>
        Let vote again
      </button>
    )
  }
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      aria-label={`Judge ${judge} again`}
      onSubmit={(e) => {
        e.preventDefault()
        again.mutate(why)
      }}
    >
      <label className="text-sm font-semibold">
        Why
        <input className="input font-normal" autoFocus value={why} onChange={(e) => setWhy(e.target.value)} />
      </label>
      <button className="button" disabled={why.trim() === '' || again.isPending}>
        Give the ballot out again
      </button>
      {again.isError && <Complaint>{again.error.message}</Complaint>}
    </form>
  )
}
