import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { Bead, KnotGlyph, shapeWords, type Shape } from '../../components/Bead'
import { Page, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { useBench } from '../../lib/queries'
import { CordView } from './CordView'
import { KnotForm } from './KnotForm'

export default function BenchPage() {
  const bench = useBench()
  return (
    <Page title="Bench" about="Each machine is a cord through time, each print a bead on it.">
      <Ready of={bench}>{(data) => <Bench data={data} />}</Ready>
    </Page>
  )
}

function Bench({ data }: { data: Schemas['Bench'] }) {
  const [chosen, setChosen] = useState<string[]>([])
  const select = (id: string) =>
    setChosen((before) => (before.includes(id) ? before.filter((b) => b !== id) : [...before, id].slice(-2)))
  return (
    <>
      <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_17rem]">
        {data.cords.length > 0 ? (
          <CordView data={data} chosen={chosen} select={select} />
        ) : (
          <div className="sheet">
            <h2>No machine yet</h2>
            <p className="mt-1 text-soft">
              The cords appear here with the first machine. Enter one, or read a record that you exported before under{' '}
              <Link to="/verdict">Verdict</Link>.
            </p>
            <Link to="/kit/machines/new" className="button button-main mt-3">
              Enter your first machine
            </Link>
          </div>
        )}
        <aside className="grid content-start gap-5" aria-label="At the bench">
          <section>
            <h2 className="mb-2">Next at the bench</h2>
            {data.next.length === 0 && (
              <p className="text-soft">Nothing waits. Record the next print when it is done.</p>
            )}
            <ol className="grid gap-3">
              {data.next.slice(0, 5).map((step, i) => (
                <li
                  key={step.link + step.title}
                  className={`border-l-4 pl-3 ${i === 0 ? 'border-act' : 'border-line'}`}
                >
                  <Link
                    to={step.link}
                    className="font-bold underline decoration-line underline-offset-4 hover:decoration-act"
                  >
                    {step.title}
                  </Link>
                  <p className="text-sm text-soft">{step.why}</p>
                </li>
              ))}
            </ol>
            {data.next.length > 5 && <p className="mt-2 text-sm text-soft">and {data.next.length - 5} more</p>}
          </section>
          {data.cords.length > 0 && <Legend />}
        </aside>
      </div>
      {chosen.length === 2 && (
        <Between data={data} a={chosen[0] ?? ''} b={chosen[1] ?? ''} clear={() => setChosen([])} />
      )}
      {data.cords.length > 0 && <KnotForm cords={data.cords} nowMs={data.now_ms} />}
    </>
  )
}

function Legend() {
  return (
    <section>
      <h2 className="mb-1">Beads</h2>
      <ul className="grid grid-cols-2 gap-x-2 lg:grid-cols-1">
        {(Object.keys(shapeWords) as Shape[]).map((s) => (
          <li key={s} className="flex items-center gap-2 text-sm">
            <svg viewBox="-16 -14 32 28" className="h-7 w-8 shrink-0" aria-hidden="true">
              <Bead shape={s} colour="var(--ink)" />
            </svg>
            {shapeWords[s]}
          </li>
        ))}
        <li className="flex items-center gap-2 text-sm">
          <svg viewBox="-16 -14 32 28" className="h-7 w-8 shrink-0" aria-hidden="true">
            <KnotGlyph />
          </svg>
          machine changed
        </li>
      </ul>
    </section>
  )
}

/** What lies between two beads, as the audit sees it, and the way to compare them. */
function Between({ data, a, b, clear }: { data: Schemas['Bench']; a: string; b: string; clear: () => void }) {
  const beads = new Map(data.cords.flatMap((c) => c.beads.map((bead) => [bead.run_id, bead.code])))
  const comparison = useQuery({
    queryKey: ['comparison', a, b, 'detail'],
    queryFn: () => answer(api.GET('/api/v1/comparison', { params: { query: { a: [a], b: [b], question: 'detail' } } })),
  })
  return (
    <section className="sheet grid gap-3 sm:grid-cols-[1fr_auto]" aria-live="polite">
      <div>
        <h2>
          Between A ({beads.get(a)}) and B ({beads.get(b)})
        </h2>
        <Ready of={comparison}>
          {(c) => {
            const rows = c.audit.rows.filter((r) => r.weight !== 'none')
            return (
              <ul className="mt-1 grid gap-1">
                {rows.map((r) => (
                  <li key={r.factor}>
                    <strong>{r.state === 'unknown' ? 'not known: ' : `${r.weight}: `}</strong>
                    {r.sentence}
                  </li>
                ))}
                {c.knots.map((k) => (
                  <li key={k}>
                    <strong>changed between: </strong>
                    {k}
                  </li>
                ))}
                {rows.length + c.knots.length === 0 && (
                  <li>Nothing on record that matters to detail differs between these two prints.</li>
                )}
              </ul>
            )
          }}
        </Ready>
      </div>
      <div className="grid content-start gap-2">
        <Link to={`/compare?a=${a}&b=${b}&question=detail`} className="button button-main">
          Compare A, B
        </Link>
        <button className="button" onClick={clear}>
          Let go
        </button>
      </div>
    </section>
  )
}
