import { Fragment } from 'react'
import type { Schemas } from '../../lib/api'
import { counted, percent } from '../../lib/format'

type Fared = Schemas['DiagnoseFared']

/** How faults went on with and without a remedy: by the prints that followed, not by what was typed. */
export function Remedied({ rows }: { rows: Fared[] }) {
  if (rows.length === 0) return null
  const tried = rows.filter((r) => r.causes.length > 0)
  const untried = rows.filter((r) => r.causes.length === 0)
  return (
    <section className="sheet grid gap-3" aria-labelledby="remedied">
      <h2 id="remedied">Did the remedy help, or did it go away by itself?</h2>
      {tried.length === 0 ? (
        <p>
          No remedy is on record yet. Open a print that lost something and say under <strong>Why</strong> what you
          tried.
        </p>
      ) : (
        <Rows rows={tried} what="Faults with and without a remedy" />
      )}
      {untried.length > 0 && (
        <details>
          <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
            {counted(untried.length, 'symptom')} against which nothing was tried
          </summary>
          <Rows rows={untried} what="Faults left to themselves" />
        </details>
      )}
      <p className="text-sm text-soft">
        ◇ computed, 95 % intervals. Each fault is followed to the next judged print on its machine that shows it again
        or holds the same piece without it; only with that print does a remedy count, and only where nothing else was
        tried at the same time.
      </p>
    </section>
  )
}

function Rows({ rows, what }: { rows: Fared[]; what: string }) {
  return (
    <div className="overflow-x-auto" role="region" aria-label={what} tabIndex={0}>
      <table className="rows">
        <thead>
          <tr>
            <th>Symptom</th>
            <th>Stayed away by itself</th>
            <th>After any remedy</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <Fragment key={r.symptom}>
              <tr>
                <th scope="row" className="border-b-0 text-left">
                  {r.symptom}
                </th>
                <Stayed s={r.by_itself} />
                <Stayed s={r.remedied} />
              </tr>
              <tr>
                <td colSpan={3} className="border-t-0 text-left whitespace-normal">
                  {r.says}
                  <ul className="text-sm text-soft">
                    {r.causes.map((c) => (
                      <li key={c.cause}>
                        against “{c.title}”:{' '}
                        <span className="num">{c.of > 0 ? `${c.away} of ${c.of}` : 'no print tells'}</span>
                        {c.of > 0 && c.rate.ci && (
                          <span className="num">
                            {' '}
                            ({percent(c.rate.ci[0])} to {percent(c.rate.ci[1])})
                          </span>
                        )}
                        {c.together > 0 && `; ${c.together} more with something else tried as well`}
                      </li>
                    ))}
                  </ul>
                </td>
              </tr>
            </Fragment>
          ))}
        </tbody>
      </table>
    </div>
  )
}

function Stayed({ s }: { s: Schemas['DiagnoseStayed'] }) {
  return (
    <td className="num">
      {s.of > 0 && s.rate.rate != null && (
        <span className="block font-semibold whitespace-nowrap">{percent(s.rate.rate)}</span>
      )}
      <span className="block text-sm whitespace-nowrap text-soft">
        {s.of > 0 ? `${s.away} of ${s.of}` : 'no print tells'}
        {s.waiting > 0 && `, ${s.waiting} waiting`}
      </span>
      {s.of > 0 && s.rate.ci && (
        <span className="block text-sm whitespace-nowrap text-soft">
          {percent(s.rate.ci[0])} to {percent(s.rate.ci[1])}
        </span>
      )}
    </td>
  )
}
