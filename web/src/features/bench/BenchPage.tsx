import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { Bead, KnotGlyph, shapeWords, type Shape } from '../../components/Bead'
import { Page, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { words } from '../../lib/format'
import { useBench } from '../../lib/queries'
import type { BeadRow } from './cordLayout'
import { CordView } from './CordView'
import { FirstHour, RoadSoFar } from './Road'
import { KnotForm } from '../../components/KnotForm'
import { NotSafe } from '../../components/Safekeeping'
import { SayLine } from '../../components/SayLine'

export default function BenchPage() {
  const bench = useBench()
  return (
    <Page
      title="Bench"
      about="Each machine is a cord through time, each print a bead on it."
      actions={
        <>
          <Link to="/upkeep" className="button">
            Upkeep
          </Link>
          <Link to="/failures" className="button">
            Failures
          </Link>
          <Link to="/devices" className="button">
            Devices
          </Link>
        </>
      }
    >
      <NotSafe />
      <Ready of={bench}>{(data) => <Bench data={data} />}</Ready>
    </Page>
  )
}

/** How many of what waits are shown at first. */
const few = 5

function Bench({ data }: { data: Schemas['Bench'] }) {
  const [all, setAll] = useState(false)
  const [chosen, setChosen] = useState<BeadRow[]>([])
  const select = (bead: BeadRow) =>
    setChosen((before) =>
      before.some((b) => b.run_id === bead.run_id)
        ? before.filter((b) => b.run_id !== bead.run_id)
        : [...before, bead].slice(-2),
    )
  if (data.cords.length === 0) return <FirstHour road={data.road} />
  return (
    <>
      <SayLine />
      <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_17rem]">
        <CordView data={data} chosen={chosen} select={select} />
        <aside className="grid content-start gap-5" aria-label="At the bench">
          <section>
            <h2 className="mb-2">Next at the bench</h2>
            {data.next.length === 0 && (
              <p className="text-soft">Nothing waits. Record the next print when it is done.</p>
            )}
            <ol className="grid gap-3">
              {(all ? data.next : data.next.slice(0, few)).map((step, i) => (
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
            {data.next.length > few && (
              <button className="button mt-2" aria-expanded={all} onClick={() => setAll(!all)}>
                {all ? 'The first few' : `All ${data.next.length} that wait`}
              </button>
            )}
          </section>
          <DueSoon due={data.due} />
          <Legend />
        </aside>
      </div>
      {chosen[0] && chosen[1] && <Between a={chosen[0]} b={chosen[1]} clear={() => setChosen([])} />}
      <KnotForm machines={data.cords.map((c) => ({ id: c.machine_id, name: c.name }))} nowMs={data.now_ms} />
      <RoadSoFar road={data.road} />
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
        <li className="flex items-center gap-2 text-sm">
          <svg viewBox="-16 -14 32 28" className="h-7 w-8 shrink-0" aria-hidden="true">
            <circle
              r={9}
              fill="none"
              stroke="var(--ink)"
              strokeWidth="2"
              strokeDasharray="1.5 3.2"
              strokeLinecap="round"
            />
          </svg>
          planned, in this order
        </li>
        <li className="flex items-center gap-2 text-sm">
          <span className="num w-8 text-center font-bold">12</span>
          prints too close to tell apart
        </li>
      </ul>
    </section>
  )
}

/** What wears out or comes round again soon, with its reason. */
function DueSoon({ due }: { due: Schemas['Due'][] }) {
  if (due.length === 0) return null
  return (
    <section>
      <h2 className="mb-1">Wears out soon</h2>
      <ul className="grid gap-2">
        {due.slice(0, 4).map((d) => (
          <li
            key={d.of + d.what + d.reminder_id}
            className={`border-l-4 pl-3 ${d.state === 'due' ? 'border-bad' : 'border-line'}`}
          >
            <Link to={d.link} className="font-bold underline decoration-line underline-offset-4 hover:decoration-act">
              {d.of}: {words(d.what)} {d.state === 'due' ? 'is due' : 'soon'}
            </Link>
            <p className="text-sm text-soft">{d.why}</p>
          </li>
        ))}
      </ul>
      <Link to="/upkeep" className="mt-1 inline-block text-sm underline">
        {due.length > 4 ? `and ${due.length - 4} more in upkeep` : 'All upkeep'}
      </Link>
    </section>
  )
}

/** What lies between two beads, as the audit sees it, and the way to compare them. */
function Between({ a, b, clear }: { a: BeadRow; b: BeadRow; clear: () => void }) {
  const comparison = useQuery({
    queryKey: ['comparison', a.run_id, b.run_id, 'detail'],
    queryFn: () =>
      answer(api.GET('/api/v1/comparison', { params: { query: { side: [a.run_id, b.run_id], question: 'detail' } } })),
  })
  return (
    <section className="sheet grid gap-3 sm:grid-cols-[1fr_auto]" aria-live="polite">
      <div>
        <h2>
          Between A ({a.code}) and B ({b.code})
        </h2>
        <Ready of={comparison}>
          {(c) => {
            const between = c.audits[0]!
            const rows = between.result.rows.filter((r) => r.weight !== 'none')
            return (
              <ul className="mt-1 grid gap-1">
                {rows.map((r) => (
                  <li key={r.factor}>
                    <strong>{r.state === 'unknown' ? 'not known: ' : `${r.weight}: `}</strong>
                    {r.sentence}
                  </li>
                ))}
                {between.knots.map((k) => (
                  <li key={k}>
                    <strong>changed between: </strong>
                    {k}
                  </li>
                ))}
                {between.threads.map((k) => (
                  <li key={k}>
                    <strong>thread: </strong>
                    {k}
                  </li>
                ))}
                {rows.length + between.knots.length + between.threads.length === 0 && (
                  <li>Nothing on record that matters to detail differs between these two prints.</li>
                )}
              </ul>
            )
          }}
        </Ready>
      </div>
      <div className="grid content-start gap-2">
        <Link to={`/compare?side=${a.run_id}&side=${b.run_id}&question=detail`} className="button button-main">
          Compare A, B
        </Link>
        <button className="button" onClick={clear}>
          Let go
        </button>
      </div>
    </section>
  )
}
