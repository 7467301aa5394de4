import { useMutation } from '@tanstack/react-query'
import { Link } from 'react-router'
import { ImportRecord } from '../../components/ImportRecord'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'

type Step = Schemas['RoadStep']

/** An empty bench: ways to begin, and the road that lies ahead. */
export function FirstHour({ road }: { road: Step[] }) {
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-4">
      <div className="grid gap-4 md:grid-cols-3">
        <Way title="Begin with a question">
          <p>What a reader asks decides what is printed and what is held. It can name machines and pieces later.</p>
          <Link to="/verdict/new" className="button button-main">
            State your question
          </Link>
        </Way>
        <Way title="Begin with a machine">
          <p>Its cord appears here with its first entry. Several, with their numbers in a spreadsheet, go faster.</p>
          <div className="flex flex-wrap gap-2">
            <Link to="/kit/machines/new" className="button button-main">
              Enter a machine
            </Link>
            <Link to="/tables/machines" className="button">
              Several as a table
            </Link>
          </div>
        </Way>
        <Way title="Begin with a record">
          <p>One that you exported before stands here as it stood there.</p>
          <ImportRecord />
        </Way>
      </div>
      <Demo />
      <Road road={road} />
    </div>
  )
}

/** The demo stands beside this record, at an address of its own. */
function Demo() {
  const fill = useMutation({ mutationFn: () => answer(api.POST('/api/v1/demo')) })
  return (
    <section className="sheet grid justify-items-start gap-3">
      <h2>Look around first</h2>
      <p className="text-soft">
        The demo is a record of its own with made-up prints, to play in; nothing of it comes here, and it ends with the
        program. To keep one, start <code className="num">ojime demo --data demo</code>.
      </p>
      {fill.data ? (
        <a className="button button-main" href={fill.data.address} target="_blank" rel="noreferrer">
          Open the demo
        </a>
      ) : (
        <button className="button button-main" disabled={fill.isPending} onClick={() => fill.mutate()}>
          {fill.isPending ? 'Two months are being lived through…' : 'Make the demo'}
        </button>
      )}
      <p role="status" className="text-soft">
        {fill.isPending && 'This takes about half a minute.'}
        {fill.data && 'The demo is there, in a window of its own.'}
      </p>
      {fill.isError && <Complaint>{fill.error.message}</Complaint>}
    </section>
  )
}

function Way({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <section className="sheet grid content-start justify-items-start gap-3">
      <h2>{title}</h2>
      {children}
    </section>
  )
}

/** The road folded to what is done and what comes next; gone when all of it is done. */
export function RoadSoFar({ road }: { road: Step[] }) {
  const next = road.find((s) => s.next)
  if (!next) return null
  return (
    <details className="sheet">
      <summary className="min-h-(--tap) cursor-pointer content-center">
        <span className="font-semibold">From question to result:</span>{' '}
        <span className="num">
          {road.filter((s) => s.done).length} of {road.length}
        </span>{' '}
        done; next: {next.title.toLowerCase()}
      </summary>
      <Road road={road} />
    </details>
  )
}

function Road({ road }: { road: Step[] }) {
  return (
    <section className="sheet" aria-label="The road from question to result">
      <h2 className="mb-2">The road from question to result</h2>
      <ol className="grid gap-x-8 gap-y-2 md:grid-flow-col md:grid-cols-2 md:grid-rows-6">
        {road.map((s, i) => (
          <li
            key={s.title}
            aria-current={s.next ? 'step' : undefined}
            className={`grid grid-cols-[2rem_minmax(0,1fr)] border-l-4 pl-2 ${s.next ? 'border-act' : 'border-line'}`}
          >
            <span className="num">{i + 1}</span>
            <span>
              <Link to={s.link} className={s.next ? 'font-bold' : ''}>
                {s.title}
              </Link>
              {s.done && <span className="font-semibold"> ✓ done</span>}
              {s.table && (
                <>
                  {' '}
                  <Link to={s.table} className="text-sm">
                    as a table
                    <span className="sr-only">: {s.title.toLowerCase()}</span>
                  </Link>
                </>
              )}
              {!s.done && <span className="block text-sm text-soft">{s.why}</span>}
            </span>
          </li>
        ))}
      </ol>
    </section>
  )
}
