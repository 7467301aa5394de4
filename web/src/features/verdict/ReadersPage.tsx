import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useParams } from 'react-router'
import { Complaint, Page, Ready } from '../../components/Page'
import { TakeBack } from '../../components/TakeBack'
import { answer, api, type Schemas } from '../../lib/api'
import { percent } from '../../lib/format'
import { useReviews } from '../../lib/queries'
import { ReaderForm } from './ReaderForm'
import { ScorePlot } from './ScorePlot'
import { SensitivityPlot } from './SensitivityPlot'
import { useReaders } from './useReaders'

type Sheet = Schemas['ReaderSheet']

/** For whom a review decides: readers with their weights and must-haves, who is best for each, and what would turn it. */
export default function ReadersPage() {
  const { id = '' } = useParams()
  const review = useReviews().data?.find((r) => r.id === id)
  const readers = useReaders(id)
  return (
    <Page
      title="For whom"
      about={
        <>
          {review && <Link to={`/verdict/${id}`}>{review.question}</Link>} What one reader wants is worth nothing to
          another. Weights, anchors and must-haves are stated once, and the record answers for each.
        </>
      }
    >
      <Ready of={readers}>
        {(s) => (
          <>
            {s.says.length > 0 && (
              <section className="sheet grid gap-1" aria-label="What does not fit">
                <h2>What does not fit</h2>
                {s.says.map((t) => (
                  <p key={t}>{t}</p>
                ))}
              </section>
            )}
            {s.readers.map((r) => (
              <Reader key={r.reader.id} s={r} all={s} />
            ))}
            <Begin id={id} s={s} />
          </>
        )}
      </Ready>
    </Page>
  )
}

function Begin({ id, s }: { id: string; s: Schemas['ReadersSheet'] }) {
  const begin = useMutation({
    mutationFn: (example: string) =>
      answer(api.POST('/api/v1/reviews/{id}/readers', { params: { path: { id } }, body: { example } })),
  })
  return (
    <section className="sheet grid gap-3" aria-label="Another reader">
      <h2>{s.readers.length === 0 ? 'Begin with a reader' : 'Another reader'}</h2>
      <p className="text-soft">Each begins with weights of ours, to be changed to yours.</p>
      <ul className="grid gap-2">
        {s.examples.map((e) => (
          <li key={e.key} className="flex flex-wrap items-center gap-3">
            <button
              className="button"
              disabled={begin.isPending}
              aria-label={`Add ${e.name}`}
              onClick={() => begin.mutate(e.key)}
            >
              Add
            </button>
            <span className="min-w-0 grow basis-60">
              <strong>{e.name}.</strong> <span className="text-soft">{e.about}</span>
            </span>
          </li>
        ))}
      </ul>
      {begin.isError && <Complaint>{begin.error.message}</Complaint>}
    </section>
  )
}

function Reader({ s, all }: { s: Sheet; all: Schemas['ReadersSheet'] }) {
  const [editing, setEditing] = useState(false)
  const r = s.reader
  return (
    <section className="sheet grid gap-3" aria-label={r.name}>
      <div className="flex flex-wrap items-start gap-3">
        <div className="min-w-0 grow basis-60">
          <h2 className="text-xl wrap-anywhere">{r.name}</h2>
          {r.about && <p className="text-soft wrap-anywhere">{r.about}</p>}
        </div>
        {!editing && (
          <button className="button" aria-label={`Change ${r.name}`} onClick={() => setEditing(true)}>
            Change weights
          </button>
        )}
        <TakeBack
          what={r.name}
          take={(why) =>
            answer(
              api.POST('/api/v1/readers/{id}/taking-back', { params: { path: { id: r.id ?? '' } }, body: { why } }),
            )
          }
        />
      </div>
      {editing && (
        <ReaderForm
          key={r.version}
          reader={r}
          measures={all.measures}
          pieces={all.pieces}
          close={() => setEditing(false)}
        />
      )}
      <p className="text-lg wrap-anywhere">{s.says[0]}</p>
      {s.says.length > 1 && (
        <ul className="grid gap-1">
          {s.says.slice(1).map((t) => (
            <li key={t} className="wrap-anywhere">
              {t}
            </li>
          ))}
        </ul>
      )}
      {s.whole && <ScorePlot title={`Scores for ${r.name}`} whole={s.whole} quality={s.quality} />}
      <details>
        <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
          Criteria, values and must-haves
        </summary>
        <Rows s={s} />
      </details>
      {s.turns.length > 0 && (
        <details>
          <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
            What would turn it <span className="font-normal text-soft">{s.turns.length}</span>
          </summary>
          <ul className="grid gap-1">
            {s.turns.map((t) => (
              <li key={t} className="wrap-anywhere">
                {t}
              </li>
            ))}
          </ul>
        </details>
      )}
      {s.lines.length > 0 && (
        <details>
          <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
            How the scores run with a weight
          </summary>
          <SensitivityPlot reader={r.name} lines={s.lines} />
        </details>
      )}
    </section>
  )
}

function Rows({ s }: { s: Sheet }) {
  return (
    <div className="overflow-x-auto" tabIndex={0} role="group" aria-label={`What ${s.reader.name} weighs`}>
      <table className="rows w-full">
        <thead>
          <tr>
            <th scope="col">Criterion</th>
            <th scope="col">Weight</th>
            <th scope="col">Worst to best</th>
            {s.options.map((o) => (
              <th scope="col" key={o.name}>
                {o.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {s.rows.map((r) => (
            <tr key={r.name}>
              <th scope="row">
                {r.name}
                {r.label && r.label !== r.name && <span className="block font-normal text-soft">{r.label}</span>}
              </th>
              <td className="num">{r.left_out ? <span className="text-soft">{r.left_out}</span> : percent(r.share)}</td>
              <td className="num whitespace-nowrap">
                {r.worst} to {r.best} {r.unit}
              </td>
              {r.values.map((v, i) => (
                <td key={s.options[i]?.name} className="num">
                  {v}
                </td>
              ))}
            </tr>
          ))}
          {s.options[0]?.limits.map((l, i) => (
            <tr key={`must ${l.name}`}>
              <th scope="row">Must have: {l.name}</th>
              <td />
              <td />
              {s.options.map((o) => (
                <td key={o.name}>
                  <strong>{o.limits[i]?.state.replaceAll('_', ' ')}</strong>, {o.limits[i]?.says}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
