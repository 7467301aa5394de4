import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'
import { Page, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { moment, words } from '../../lib/format'

/** One knot: all that changed with it, what can be told apart, and the prints on both sides of it. */
export default function KnotPage() {
  const { id = '' } = useParams()
  const set = useQuery({
    queryKey: ['knots', id],
    queryFn: () => answer(api.GET('/api/v1/machine-events/{id}', { params: { path: { id } } })),
  })
  return (
    <Ready of={set}>
      {(s) => (
        <Page
          title={`${s.machine}: ${words(s.event.kind)}`}
          about={[moment(s.event.at_ms), s.event.note].filter(Boolean).join(', ')}
        >
          <Changes s={s} />
          <Pairs s={s} />
        </Page>
      )}
    </Ready>
  )
}

function Changes({ s }: { s: Schemas['ChangeSet'] }) {
  if (!s.plan) {
    return (
      <section className="sheet">
        <h2>What changed</h2>
        <p className="text-soft">
          {words(s.event.kind)} alone is on record. What else changed with it cannot be known from here.
        </p>
      </section>
    )
  }
  return (
    <section className="sheet grid gap-3">
      <h2>What changed, and what can be told apart</h2>
      <p className="border-l-4 border-act pl-3">{s.plan.sentence}</p>
      <div className="overflow-x-auto">
        <table className="rows">
          <thead>
            <tr>
              <th>Set-up to print</th>
              {(s.event.changes ?? []).map((c) => (
                <th key={c.what}>
                  {c.what}
                  <span className="block text-sm font-normal text-soft">
                    {[c.from, c.to].filter(Boolean).join(' → ') || 'not described'}
                  </span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {s.plan.cells.map((c) => (
              <tr key={c.label}>
                <td>
                  {c.label}
                  {!c.printed && <strong className="block text-sm">to be printed</strong>}
                </td>
                {c.in.map((on, i) => (
                  <td key={i}>{on ? '■ in' : '□ as before'}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="text-sm text-soft">
        Print the same pieces in each set-up, in a drawn order, and change nothing else. Main effects only: whether two
        changes work on each other cannot be seen from these.
      </p>
    </section>
  )
}

function Pairs({ s }: { s: Schemas['ChangeSet'] }) {
  const query = (ids: string[], side: string) => ids.map((id) => `${side}=${id}`).join('&')
  return (
    <section className="sheet grid gap-2">
      <h2>Before and after on record</h2>
      {s.pairs.length === 0 && <p className="text-soft">No finished print lies near this knot.</p>}
      {s.pairs.length > 0 && (
        <div className="overflow-x-auto">
          <table className="rows">
            <thead>
              <tr>
                <th>Piece and resin</th>
                <th>Runs before</th>
                <th>Runs after</th>
                <th>Compare</th>
              </tr>
            </thead>
            <tbody>
              {s.pairs.map((p) => (
                <tr key={p.piece + p.resin}>
                  <td>
                    {p.piece}, {p.resin}
                  </td>
                  <td className="num">{p.before_run_ids.length}</td>
                  <td className="num">{p.after_run_ids.length}</td>
                  <td>
                    {p.before_run_ids.length > 0 && p.after_run_ids.length > 0 ? (
                      <Link
                        to={`/compare?${query(p.before_run_ids.slice(-20), 'a')}&${query(p.after_run_ids.slice(0, 20), 'b')}&question=detail`}
                      >
                        Before against after
                      </Link>
                    ) : (
                      <span className="text-soft">needs a print on both sides</span>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  )
}
