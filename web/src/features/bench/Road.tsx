import { Link } from 'react-router'
import { ImportRecord } from '../../components/ImportRecord'
import type { Schemas } from '../../lib/api'

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
      <p className="sheet text-soft">
        To look around first, start the demo beside this record: <code className="num">ojime demo --data demo</code>. It
        fills a record of its own with made-up prints, to play in; nothing of it comes here.
      </p>
      <Road road={road} />
    </div>
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
