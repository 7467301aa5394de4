import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { Warnings } from '../../components/Figure'
import { Complaint, Ready } from '../../components/Page'
import { answer, api, type RunSheet, type Schemas } from '../../lib/api'
import { counted, figure, moment, percent } from '../../lib/format'

/** For each symptom on the plate: likely causes by the conditions on record, and what was tried. */
export function Diagnosis({ sheet }: { sheet: RunSheet }) {
  // What happened in washing or handling has no cause in the print.
  const printed = sheet.specimens
    .flatMap((s) => s.defects ?? [])
    .filter((d) => d.taken_back_ms == null && (d.origin === 'printed' || d.origin === 'unknown'))
  const symptoms = [...new Set(printed.map((d) => d.symptom))]
  return symptoms.map((s) => <Symptom key={s} id={sheet.run.id ?? ''} symptom={s} />)
}

type Cause = Schemas['DiagnoseCause']

function Symptom({ id, symptom }: { id: string; symptom: string }) {
  const client = useQueryClient()
  const key = ['runs', id, 'diagnosis', symptom]
  const [all, setAll] = useState(false)
  const [own, setOwn] = useState('')
  const [remedy, setRemedy] = useState('')
  const diagnosis = useQuery({
    queryKey: key,
    queryFn: () => answer(api.GET('/api/v1/runs/{id}/diagnosis', { params: { path: { id }, query: { symptom } } })),
  })
  const keep = useMutation({
    mutationFn: (body: Schemas['Remedy']) =>
      answer(api.POST('/api/v1/runs/{id}/remedies', { params: { path: { id } }, body })),
    onSuccess: (d) => client.setQueryData(key, d),
  })
  const tryIt = (c: Cause) => keep.mutate({ symptom, cause: c.cause, note: c.remedy })
  return (
    <section className="sheet grid gap-3" aria-label={`Likely causes: ${symptom}`}>
      <h2>
        Why <span className="font-normal">“{symptom}”</span>
      </h2>
      {keep.isError && <Complaint>{keep.error.message}</Complaint>}
      <Ready of={diagnosis}>
        {(d) => (
          <>
            {d.result.quirks.map((q) => (
              <p key={q.text} className="border-l-4 border-act pl-3">
                <strong>This machine is known for it.</strong> {q.says}
                {q.workaround && <span className="block text-soft">Against it: {q.workaround}</span>}
              </p>
            ))}
            <Warnings list={d.result.warnings} />
            <ol className="grid">
              {d.result.causes.slice(0, all ? undefined : 3).map((c) => (
                <CauseRow
                  key={c.cause}
                  c={c}
                  proven={d.result.proven}
                  tried={d.tried.some((t) => t.cause === c.cause)}
                  tryIt={() => tryIt(c)}
                />
              ))}
            </ol>
            {d.result.causes.length > 3 && (
              <button className="button justify-self-start" onClick={() => setAll(!all)}>
                {all ? 'Only the likeliest' : `All ${d.result.causes.length} causes`}
              </button>
            )}
            <form
              className="flex flex-wrap items-end gap-2"
              onSubmit={(e) => {
                e.preventDefault()
                keep.mutate({ symptom, cause: own, note: remedy })
                setOwn('')
                setRemedy('')
              }}
            >
              <label className="min-w-40 flex-1 text-sm font-semibold">
                A cause of your own
                <input
                  className="input font-normal"
                  required
                  aria-label={`A cause of your own for ${symptom}`}
                  value={own}
                  onChange={(e) => setOwn(e.target.value)}
                />
              </label>
              <label className="min-w-40 flex-1 text-sm font-semibold">
                What you tried
                <input
                  className="input font-normal"
                  required
                  aria-label={`What you tried against ${symptom}`}
                  value={remedy}
                  onChange={(e) => setRemedy(e.target.value)}
                />
              </label>
              <button className="button" disabled={keep.isPending}>
                Note it
              </button>
            </form>
            {d.tried.length > 0 && (
              <ul className="grid gap-2 border-t border-line pt-2" aria-label="What was tried">
                {d.tried.map((t) => (
                  <li key={t.id}>
                    <span className="num text-soft">{moment(t.at_ms ?? 0)}</span> tried against “{t.title}”: {t.note}
                    <span className="block font-semibold">
                      It {t.told_by ? <Link to={`/runs/${t.told_by}`}>{t.says}</Link> : t.says}
                      {t.came_back != null && `; you noted that it ${t.came_back ? 'came back' : 'stayed away'}`}
                    </span>
                  </li>
                ))}
              </ul>
            )}
            {d.fared && (
              <p>
                <span className="text-soft">Over the record:</span> {d.fared.says}
              </p>
            )}
            <p className="text-sm text-soft">
              Ranked by weighed evidence from this record, not proven; it may be something that is not on this list.{' '}
              <Fared d={d.result} />
            </p>
          </>
        )}
      </Ready>
    </section>
  )
}

/** How remedies fared over the whole record: shares are shown once there are enough of them. */
function Fared({ d }: { d: Schemas['DiagnoseResult'] }) {
  if (!d.hit_rate) {
    const judged = d.judged === 0 ? 'No remedy' : counted(d.judged, 'remedy', 'remedies')
    return (
      <>
        {judged} of this record told by a later print so far: too few for chances in per cent. A remedy counts with the
        print that followed it.
      </>
    )
  }
  return (
    <span className="num">
      Of {counted(d.judged, 'remedy', 'remedies')} that a later print told of {d.helped} helped:{' '}
      {percent(d.hit_rate.rate ?? 0)}, 95 %: {percent(d.hit_rate.ci?.[0] ?? 0)} to {percent(d.hit_rate.ci?.[1] ?? 1)}.
      Something else: {percent(d.other_share)}.
    </span>
  )
}

function CauseRow({ c, proven, tried, tryIt }: { c: Cause; proven: boolean; tried: boolean; tryIt: () => void }) {
  const list = (word: string, items: string[]) =>
    items.length > 0 && (
      <p>
        <span className="text-soft">{word}:</span> {items.join('; ')}
      </p>
    )
  return (
    <li className="grid gap-1 border-t border-line py-2">
      <div className="flex flex-wrap items-baseline justify-between gap-2">
        <h3>
          {c.title}{' '}
          <span className="ml-1 font-normal">
            {c.chance}
            {proven && <span className="num">, {figure(100 * c.share, 2)} %</span>}
          </span>
        </h3>
        {!tried && (
          <button className="button" onClick={tryIt} aria-label={`I tried this: ${c.title}`}>
            I tried this
          </button>
        )}
      </div>
      {list('for', c.for)}
      {list('against', c.against)}
      {list('not known', c.unknown)}
      <p>
        <span className="text-soft">cheapest test:</span> {c.test}
      </p>
      <p>
        <span className="text-soft">remedy:</span> {c.remedy}
        {c.tried_n > 0 && (
          <span className="num">
            {' '}
            (stayed away {c.helped} of {c.tried_n} times that a print told of it)
          </span>
        )}
      </p>
    </li>
  )
}
